-- Plans are versioned with their inputs frozen; a cause is confirmed or rejected by a person.
CREATE TABLE plans (
  id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), version INTEGER NOT NULL, name TEXT NOT NULL, input TEXT NOT NULL, answer TEXT NOT NULL, prints TEXT NOT NULL,
  cents INTEGER NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL, UNIQUE (head_id, version));
CREATE TABLE cause_calls (
  id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), cause TEXT NOT NULL, state TEXT NOT NULL, note TEXT NOT NULL DEFAULT '', person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX cause_calls_head ON cause_calls (head_id);
CREATE TRIGGER plans_no_update BEFORE UPDATE ON plans BEGIN SELECT RAISE(ABORT, 'plans are never changed'); END;
