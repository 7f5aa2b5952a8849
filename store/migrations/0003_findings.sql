-- What eyes see, photos, parts in their places, a shop's own characteristics, studies of
-- tools. Findings and parts are append-only: a later one at the same place counts.
CREATE TABLE findings (
  id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), part TEXT NOT NULL, grade TEXT NOT NULL, position TEXT NOT NULL DEFAULT '',
  x INTEGER NOT NULL DEFAULT 0, y INTEGER NOT NULL DEFAULT 0, note TEXT NOT NULL DEFAULT '', stage TEXT NOT NULL,
  person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL, supersedes INTEGER UNIQUE REFERENCES findings(id));
CREATE INDEX findings_head ON findings (head_id);
CREATE TABLE photos (
  id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), position TEXT NOT NULL DEFAULT '', caption TEXT NOT NULL DEFAULT '',
  width INTEGER NOT NULL, height INTEGER NOT NULL, jpeg BLOB NOT NULL, shown INTEGER NOT NULL DEFAULT 0, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX photos_head ON photos (head_id);
CREATE TABLE places (
  id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), position TEXT NOT NULL, part TEXT NOT NULL, state TEXT NOT NULL, evidence TEXT NOT NULL DEFAULT '',
  person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX places_head ON places (head_id);
CREATE TABLE own_characteristics (
  id INTEGER PRIMARY KEY, model_id INTEGER NOT NULL REFERENCES head_models(id), code TEXT NOT NULL UNIQUE, label TEXT NOT NULL, spot TEXT NOT NULL, unit TEXT NOT NULL, stat TEXT NOT NULL DEFAULT 'each', tool_kind TEXT NOT NULL DEFAULT '', UNIQUE (model_id, label));
ALTER TABLE tools ADD COLUMN u_ppm INTEGER NOT NULL DEFAULT 0;
CREATE TABLE studies (
  id INTEGER PRIMARY KEY, tool_id INTEGER NOT NULL REFERENCES tools(id), what TEXT NOT NULL, data TEXT NOT NULL, u_nm INTEGER NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL, taken_at DATETIME);
ALTER TABLE limit_sheets ADD COLUMN confirmed_by INTEGER REFERENCES users(id);
ALTER TABLE limit_sheets ADD COLUMN confirmed_at DATETIME;
ALTER TABLE jobs ADD COLUMN regulated TEXT NOT NULL DEFAULT '';
ALTER TABLE heads ADD COLUMN earlier TEXT NOT NULL DEFAULT '';
CREATE TABLE settings (name TEXT PRIMARY KEY, value TEXT NOT NULL);
CREATE TRIGGER findings_no_update BEFORE UPDATE ON findings BEGIN SELECT RAISE(ABORT, 'findings are never changed'); END;
CREATE TRIGGER findings_no_delete BEFORE DELETE ON findings BEGIN SELECT RAISE(ABORT, 'findings are never deleted'); END;
