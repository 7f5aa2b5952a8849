-- Heads to practise on: their key is sealed with a secret of the shop until they are opened.
CREATE TABLE practice_secrets (
	id INTEGER PRIMARY KEY CHECK (id = 1),
	secret BLOB NOT NULL
);
CREATE TABLE practice_heads (
	id INTEGER PRIMARY KEY AUTOINCREMENT,
	person_id INTEGER NOT NULL REFERENCES users(id),
	at DATETIME NOT NULL,
	lesson TEXT NOT NULL,
	level INTEGER NOT NULL,
	trouble TEXT NOT NULL DEFAULT '',
	exam TEXT NOT NULL DEFAULT '',
	sealed BLOB NOT NULL,
	record TEXT NOT NULL DEFAULT '{}',
	opened_at DATETIME,
	share REAL NOT NULL DEFAULT 0,
	skills TEXT NOT NULL DEFAULT '[]'
);
CREATE INDEX practice_heads_person ON practice_heads(person_id, id);
