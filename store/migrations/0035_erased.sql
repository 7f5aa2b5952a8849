-- What is kept of a customer is erased when they ask for it. A line of the trail may lose what it says of them
-- then, and nothing else.
ALTER TABLE customers ADD COLUMN erased DATETIME;
DROP TRIGGER events_no_update;
CREATE TRIGGER events_no_update BEFORE UPDATE ON events
WHEN NOT (NEW.detail = '' AND NEW.id = OLD.id AND NEW.at = OLD.at AND NEW.person_id IS OLD.person_id AND NEW.head_id IS OLD.head_id
  AND NEW.what = OLD.what AND NEW.origin IS OLD.origin AND NEW.about IS OLD.about)
BEGIN SELECT RAISE(ABORT, 'events are never changed'); END;
