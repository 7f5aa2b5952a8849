-- Each reading keeps the doubt its tool had when it was taken: a later study, calibration or
-- edit of the tool changes no earlier verdict. What was read before gets the doubt of today.
DROP TRIGGER readings_no_update;
ALTER TABLE readings ADD COLUMN u INTEGER NOT NULL DEFAULT 0;
UPDATE readings SET u = (SELECT t.u + abs(readings.nm) / 1000000 * t.u_ppm FROM tools t WHERE t.id = readings.tool_id) WHERE bracket = 0;
CREATE TRIGGER readings_no_update BEFORE UPDATE ON readings BEGIN SELECT RAISE(ABORT, 'readings are never changed'); END;

-- What sort of head a model is, as fields.
ALTER TABLE head_models ADD COLUMN cooling TEXT NOT NULL DEFAULT '';
ALTER TABLE head_models ADD COLUMN lifter TEXT NOT NULL DEFAULT 'solid';
ALTER TABLE head_models ADD COLUMN ignition TEXT NOT NULL DEFAULT '';
ALTER TABLE head_models ADD COLUMN intake_valve TEXT NOT NULL DEFAULT 'steel';
ALTER TABLE head_models ADD COLUMN exhaust_valve TEXT NOT NULL DEFAULT 'steel';
UPDATE head_models SET cooling = CASE WHEN json_array_length(layout, '$.water') > 0 THEN 'water' ELSE 'air' END,
  ignition = CASE WHEN json_array_length(layout, '$.injectors') > 0 THEN 'injector' ELSE 'plug' END;

-- The newest reading of the head when an operation was started: what is read later was read
-- after it, whatever the clock says.
ALTER TABLE operations ADD COLUMN begun_after INTEGER NOT NULL DEFAULT -1;
UPDATE operations SET begun_after = (SELECT coalesce(max(r.id), 0) FROM readings r WHERE r.head_id = operations.head_id AND r.at < operations.started_at)
  WHERE started_at IS NOT NULL;

-- What the owner tells, ticked.
ALTER TABLE jobs ADD COLUMN symptoms TEXT NOT NULL DEFAULT '';

-- Tags of a new shop are counted from 1; those of an older one go on.
INSERT INTO settings (name, value) SELECT 'first_tag', '401' WHERE EXISTS (SELECT 1 FROM heads);

-- A mail that cannot be sent is not tried for ever.
ALTER TABLE mails ADD COLUMN tries INTEGER NOT NULL DEFAULT 0;
