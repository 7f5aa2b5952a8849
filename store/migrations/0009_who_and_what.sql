-- What a client-made id was sent with: the same id with other content is refused.
ALTER TABLE writes ADD COLUMN content TEXT NOT NULL DEFAULT '';
-- From where something was done: the station's name, or the address.
ALTER TABLE events ADD COLUMN origin TEXT NOT NULL DEFAULT '';
-- A new password ends the sessions begun with an older one: each keeps the number it began with.
ALTER TABLE users ADD COLUMN epoch INTEGER NOT NULL DEFAULT 0;
-- Wrong PINs since the last right one; a PIN is locked at a number of them until the lead unlocks it.
ALTER TABLE users ADD COLUMN pin_misses INTEGER NOT NULL DEFAULT 0;
-- A tablet that is lost is no station any more.
ALTER TABLE stations ADD COLUMN revoked_at DATETIME;

-- The newest reading of the shop when a tool was checked: what it says holds for the readings
-- up to there, whatever the clock says. The same for the lead's releases and the zero checks.
DROP TRIGGER zero_checks_no_update;
ALTER TABLE zero_checks ADD COLUMN after_reading INTEGER NOT NULL DEFAULT 0;
UPDATE zero_checks SET after_reading = (SELECT coalesce(max(r.id), 0) FROM readings r WHERE r.at <= zero_checks.at);
CREATE TRIGGER zero_checks_no_update BEFORE UPDATE ON zero_checks BEGIN SELECT RAISE(ABORT, 'zero checks are never changed'); END;
ALTER TABLE releases ADD COLUMN after_check INTEGER NOT NULL DEFAULT 0;
UPDATE releases SET after_check = (SELECT coalesce(max(z.id), 0) FROM zero_checks z WHERE z.at <= releases.at);
CREATE INDEX zero_checks_after ON zero_checks (after_reading);
