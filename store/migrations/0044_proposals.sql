-- Proposals that the owner has left: each stays away until what is proposed changes.
CREATE TABLE left_proposals (
	key TEXT PRIMARY KEY,
	proposed TEXT NOT NULL,
	person_id INTEGER NOT NULL REFERENCES users(id),
	at DATETIME NOT NULL
);
CREATE INDEX heads_closed ON heads (closed_at) WHERE closed_at IS NOT NULL;
CREATE INDEX movements_used ON movements (at, item_id, head_id, count) WHERE kind = 'use';
