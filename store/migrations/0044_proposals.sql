-- Proposals that the owner has left: each stays away until what is proposed changes.
CREATE TABLE left_proposals (
	key TEXT PRIMARY KEY,
	proposed TEXT NOT NULL,
	person_id INTEGER NOT NULL REFERENCES users(id),
	at DATETIME NOT NULL
);
