-- What somebody can do (operations' codes with spaces between; empty: as the role has it), when
-- they are there (empty: the shop's hours), and their days off.
ALTER TABLE users ADD COLUMN skills TEXT NOT NULL DEFAULT '';
ALTER TABLE users ADD COLUMN hours TEXT NOT NULL DEFAULT '';
ALTER TABLE users ADD COLUMN days_off TEXT NOT NULL DEFAULT '';
-- Who was at an operation, and when: several people, with breaks between.
CREATE TABLE stints (
  id INTEGER PRIMARY KEY, operation_id INTEGER NOT NULL REFERENCES operations(id), person_id INTEGER NOT NULL REFERENCES users(id),
  started_at DATETIME NOT NULL, ended_at DATETIME);
CREATE INDEX stints_operation ON stints (operation_id);
CREATE INDEX stints_open ON stints (ended_at) WHERE ended_at IS NULL;
INSERT INTO stints (operation_id, person_id, started_at, ended_at)
  SELECT id, started_by, started_at, CASE WHEN state = 'running' THEN NULL ELSE coalesce(finished_at, started_at) END FROM operations WHERE started_at IS NOT NULL AND started_by IS NOT NULL AND state IN ('running', 'held', 'done');
