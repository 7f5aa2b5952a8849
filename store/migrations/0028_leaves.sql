-- The leaves of a set of feelers, with their unit: one leaf alone is read up to the next.
ALTER TABLE tools ADD COLUMN leaves TEXT NOT NULL DEFAULT '';
