-- What a line of the audit trail is about beside a head: "customer/12", "settings".
ALTER TABLE events ADD COLUMN about TEXT NOT NULL DEFAULT '';
CREATE INDEX events_about ON events (about, id) WHERE about <> '';
-- Jobs of before the program, taken in from a list.
CREATE TABLE old_jobs (
  id INTEGER PRIMARY KEY, customer_id INTEGER NOT NULL REFERENCES customers(id), number TEXT NOT NULL, of_machine TEXT NOT NULL DEFAULT '',
  of_model TEXT NOT NULL DEFAULT '', marks TEXT NOT NULL DEFAULT '', day TEXT NOT NULL, work TEXT NOT NULL DEFAULT '', cents INTEGER NOT NULL DEFAULT 0);
CREATE INDEX old_jobs_customer ON old_jobs (customer_id, day);
CREATE INDEX old_jobs_marks ON old_jobs (marks) WHERE marks <> '';
