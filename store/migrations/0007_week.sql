-- The stations of the work: how many heads each takes at a time, and its hours.
CREATE TABLE work_stations (
  id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE,
  capacity INTEGER NOT NULL CHECK (capacity BETWEEN 1 AND 20), hours TEXT NOT NULL);
-- The operations done last, by which the shop learns its minutes.
CREATE INDEX operations_finished ON operations (finished_at);
-- How far ahead of its turn a head is taken; 0 is by its promise.
ALTER TABLE heads ADD COLUMN urgency INTEGER NOT NULL DEFAULT 0;
