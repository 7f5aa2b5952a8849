CREATE TABLE touches (
	kind TEXT NOT NULL,
	what INTEGER NOT NULL,
	head_id INTEGER NOT NULL REFERENCES heads(id),
	n INTEGER NOT NULL,
	first_at DATETIME NOT NULL,
	last_at DATETIME NOT NULL,
	PRIMARY KEY (kind, what, head_id)
) WITHOUT ROWID;
CREATE INDEX touches_first ON touches (kind, what, first_at);
CREATE INDEX touches_last ON touches (kind, what, last_at);

INSERT INTO touches
SELECT 'tool', tool_id, head_id, count(*), min(at), max(at) FROM readings GROUP BY tool_id, head_id;

INSERT INTO touches
SELECT 'person', person_id, head_id, count(*), min(at), max(at) FROM (
	SELECT person_id, head_id, at FROM readings
	UNION ALL SELECT person_id, head_id, at FROM findings
	UNION ALL SELECT s.person_id, o.head_id, s.started_at FROM stints s JOIN operations o ON o.id = s.operation_id
) GROUP BY person_id, head_id;

CREATE TABLE touches_summed (
	source TEXT PRIMARY KEY,
	up_to INTEGER NOT NULL
) WITHOUT ROWID;

INSERT INTO touches_summed
SELECT 'readings', coalesce(max(id), 0) FROM readings
UNION ALL SELECT 'findings', coalesce(max(id), 0) FROM findings
UNION ALL SELECT 'stints', coalesce(max(id), 0) FROM stints;
