-- Lengths are whole nanometres, times UTC. Readings and events are append-only: the
-- triggers at the end refuse what the program would never do.
CREATE TABLE sessions (token TEXT PRIMARY KEY, data BLOB NOT NULL, expiry REAL NOT NULL);
CREATE INDEX sessions_expiry ON sessions (expiry);

CREATE TABLE users (
  id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, role TEXT NOT NULL,
  password_hash TEXT NOT NULL DEFAULT '', pin_hash TEXT NOT NULL DEFAULT '', unit TEXT NOT NULL DEFAULT 'mm',
  active INTEGER NOT NULL DEFAULT 1, created_at DATETIME NOT NULL);
CREATE TABLE stations (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, token_hash TEXT NOT NULL UNIQUE, created_at DATETIME NOT NULL);

CREATE TABLE customers (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, contact TEXT NOT NULL DEFAULT '', created_at DATETIME NOT NULL);
CREATE TABLE machines (id INTEGER PRIMARY KEY, customer_id INTEGER NOT NULL REFERENCES customers(id), name TEXT NOT NULL, UNIQUE (customer_id, name));

CREATE TABLE head_models (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, about TEXT NOT NULL DEFAULT '', material TEXT NOT NULL, drive TEXT NOT NULL, unit TEXT NOT NULL, layout TEXT NOT NULL, created_at DATETIME NOT NULL);
CREATE TABLE limit_sheets (id INTEGER PRIMARY KEY, model_id INTEGER NOT NULL REFERENCES head_models(id), version INTEGER NOT NULL, note TEXT NOT NULL DEFAULT '', person_id INTEGER NOT NULL REFERENCES users(id), created_at DATETIME NOT NULL, UNIQUE (model_id, version));
CREATE TABLE limits (id INTEGER PRIMARY KEY, sheet_id INTEGER NOT NULL REFERENCES limit_sheets(id), characteristic TEXT NOT NULL, role TEXT NOT NULL DEFAULT '', kind TEXT NOT NULL DEFAULT 'service', low INTEGER, high INTEGER, near INTEGER NOT NULL DEFAULT 0, source TEXT NOT NULL, UNIQUE (sheet_id, characteristic, role, kind));

CREATE TABLE tools (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, kind TEXT NOT NULL, resolution INTEGER NOT NULL, u INTEGER NOT NULL, calibration_due DATETIME);

CREATE TABLE jobs (id INTEGER PRIMARY KEY, kind TEXT NOT NULL, customer_id INTEGER NOT NULL REFERENCES customers(id), machine_id INTEGER NOT NULL REFERENCES machines(id), story TEXT NOT NULL DEFAULT '', came_with TEXT NOT NULL DEFAULT '', hours TEXT NOT NULL DEFAULT '', promise DATETIME, created_at DATETIME NOT NULL);
CREATE TABLE heads (id INTEGER PRIMARY KEY, tag TEXT NOT NULL UNIQUE, job_id INTEGER NOT NULL REFERENCES jobs(id), model_id INTEGER NOT NULL REFERENCES head_models(id), sheet_id INTEGER NOT NULL REFERENCES limit_sheets(id), bank TEXT NOT NULL DEFAULT '', marks TEXT NOT NULL DEFAULT '', created_at DATETIME NOT NULL, work_order_at DATETIME, closed_at DATETIME, handed_over_at DATETIME, handed_to TEXT NOT NULL DEFAULT '', refit TEXT NOT NULL DEFAULT '');

CREATE TABLE readings (
  id INTEGER PRIMARY KEY, client_id TEXT NOT NULL UNIQUE, head_id INTEGER NOT NULL REFERENCES heads(id), characteristic TEXT NOT NULL,
  position TEXT NOT NULL, place TEXT NOT NULL DEFAULT '', dir TEXT NOT NULL DEFAULT '', stage TEXT NOT NULL,
  typed TEXT NOT NULL, nm INTEGER NOT NULL, go_nm INTEGER NOT NULL DEFAULT 0, nogo_nm INTEGER NOT NULL DEFAULT 0, bracket INTEGER NOT NULL DEFAULT 0,
  tool_id INTEGER NOT NULL REFERENCES tools(id), method TEXT NOT NULL DEFAULT 'direct', person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL,
  supersedes INTEGER UNIQUE REFERENCES readings(id), why TEXT NOT NULL DEFAULT '');
CREATE INDEX readings_head ON readings (head_id, stage, characteristic);

CREATE TABLE decisions (id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), feature TEXT NOT NULL, position TEXT NOT NULL DEFAULT '', choice TEXT NOT NULL, reason TEXT NOT NULL DEFAULT '', figure TEXT NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL, replaced_at DATETIME);
CREATE UNIQUE INDEX decisions_current ON decisions (head_id, feature) WHERE replaced_at IS NULL;
CREATE TABLE signoffs (id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), feature TEXT NOT NULL, figure TEXT NOT NULL, reason TEXT NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX signoffs_head ON signoffs (head_id);
CREATE TABLE operations (id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), seq INTEGER NOT NULL, code TEXT NOT NULL, positions TEXT NOT NULL DEFAULT '', minutes INTEGER NOT NULL, state TEXT NOT NULL DEFAULT 'waiting', skip_reason TEXT NOT NULL DEFAULT '', started_at DATETIME, started_by INTEGER REFERENCES users(id), finished_at DATETIME, finished_by INTEGER REFERENCES users(id), UNIQUE (head_id, seq));
CREATE TABLE notes (id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), kind TEXT NOT NULL, input TEXT NOT NULL, output TEXT NOT NULL, text TEXT NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX notes_head ON notes (head_id);
CREATE TABLE events (id INTEGER PRIMARY KEY, at DATETIME NOT NULL, person_id INTEGER NOT NULL DEFAULT 0, head_id INTEGER NOT NULL DEFAULT 0, what TEXT NOT NULL, detail TEXT NOT NULL DEFAULT '');
CREATE INDEX events_head ON events (head_id);
CREATE TABLE writes (client_id TEXT PRIMARY KEY, answer TEXT NOT NULL, at DATETIME NOT NULL);

CREATE TRIGGER readings_no_update BEFORE UPDATE ON readings BEGIN SELECT RAISE(ABORT, 'readings are never changed'); END;
CREATE TRIGGER readings_no_delete BEFORE DELETE ON readings BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END;
CREATE TRIGGER events_no_update BEFORE UPDATE ON events BEGIN SELECT RAISE(ABORT, 'events are never changed'); END;
CREATE TRIGGER events_no_delete BEFORE DELETE ON events BEGIN SELECT RAISE(ABORT, 'events are never deleted'); END;
