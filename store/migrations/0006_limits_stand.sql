-- A limit is never changed: an edit of a sheet makes a new version with lines of its own.
CREATE TRIGGER limits_no_update BEFORE UPDATE ON limits BEGIN SELECT RAISE(ABORT, 'limits are never changed'); END;
CREATE TRIGGER limits_no_delete BEFORE DELETE ON limits BEGIN SELECT RAISE(ABORT, 'limits are never deleted'); END;
