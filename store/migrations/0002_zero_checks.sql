-- A tool's zero check reads a standard of known size. A failed one makes the readings
-- since the last good one suspect; that is derived. A release is the lead's word for them.
ALTER TABLE tools ADD COLUMN standard INTEGER NOT NULL DEFAULT 0;
ALTER TABLE tools ADD COLUMN tolerance INTEGER NOT NULL DEFAULT 0;
CREATE TABLE zero_checks (id INTEGER PRIMARY KEY, tool_id INTEGER NOT NULL REFERENCES tools(id), typed TEXT NOT NULL, read_nm INTEGER NOT NULL, off_nm INTEGER NOT NULL, passed INTEGER NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX zero_checks_tool ON zero_checks (tool_id, at);
CREATE TABLE releases (id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), tool_id INTEGER NOT NULL REFERENCES tools(id), reason TEXT NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX releases_head ON releases (head_id);
CREATE TRIGGER zero_checks_no_update BEFORE UPDATE ON zero_checks BEGIN SELECT RAISE(ABORT, 'zero checks are never changed'); END;
CREATE TRIGGER zero_checks_no_delete BEFORE DELETE ON zero_checks BEGIN SELECT RAISE(ABORT, 'zero checks are never deleted'); END;
