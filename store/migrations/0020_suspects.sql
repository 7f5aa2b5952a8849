-- Which heads had left with readings that a failed zero check made suspect, and how many: worked out once,
-- when the check fails. The index is what that is found by.
CREATE INDEX readings_tool ON readings (tool_id);
CREATE TABLE suspects (
  check_id INTEGER NOT NULL REFERENCES zero_checks(id), head_id INTEGER NOT NULL REFERENCES heads(id), count INTEGER NOT NULL,
  PRIMARY KEY (check_id, head_id));
INSERT INTO suspects (check_id, head_id, count)
SELECT z.id, r.head_id, count(*)
FROM zero_checks z
JOIN readings r ON r.tool_id = z.tool_id AND r.id <= z.after_reading AND r.id > coalesce(
  (SELECT max(b.after_reading) FROM zero_checks b WHERE b.tool_id = z.tool_id AND b.id < z.id), 0)
JOIN heads h ON h.id = r.head_id AND h.handed_over_at <= z.at
WHERE NOT z.passed AND NOT EXISTS (SELECT 1 FROM readings n WHERE n.supersedes = r.id)
GROUP BY z.id, r.head_id;
