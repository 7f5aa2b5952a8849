-- A bar of the week that somebody put to a later time is held back until then.
ALTER TABLE operations ADD COLUMN not_before DATETIME;
-- What the week's plan was at the end of each day it was looked at, to tell what changed since.
CREATE TABLE plan_days (
  id INTEGER PRIMARY KEY, day TEXT NOT NULL UNIQUE, last_event INTEGER NOT NULL, plan TEXT NOT NULL, at DATETIME NOT NULL);
-- The secret in the address of somebody's own calendar; empty until they want one.
ALTER TABLE users ADD COLUMN calendar_key TEXT NOT NULL DEFAULT '';
