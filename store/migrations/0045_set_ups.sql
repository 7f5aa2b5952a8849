CREATE TABLE set_ups (
	id INTEGER PRIMARY KEY,
	operation_id INTEGER NOT NULL REFERENCES operations(id),
	head_id INTEGER NOT NULL REFERENCES heads(id),
	code TEXT NOT NULL,
	said TEXT NOT NULL COLLATE NOCASE,
	person_id INTEGER NOT NULL REFERENCES users(id),
	at DATETIME NOT NULL
);
CREATE INDEX set_ups_operation ON set_ups (operation_id);
CREATE INDEX set_ups_said ON set_ups (said);
CREATE INDEX set_ups_code ON set_ups (code, said);
CREATE INDEX set_ups_head ON set_ups (head_id);
