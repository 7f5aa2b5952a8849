-- The readings of a head after one that is known, in the order they were read.
CREATE INDEX readings_of_head ON readings (head_id);
-- What was read of a head, counted from the index alone.
DROP INDEX readings_head;
CREATE INDEX readings_head ON readings (head_id, stage, characteristic, supersedes);
-- A limit is never changed: an edit of a sheet makes a new version with lines of its own.
CREATE TRIGGER limits_no_update BEFORE UPDATE ON limits BEGIN SELECT RAISE(ABORT, 'limits are never changed'); END;
CREATE TRIGGER limits_no_delete BEFORE DELETE ON limits BEGIN SELECT RAISE(ABORT, 'limits are never deleted'); END;
