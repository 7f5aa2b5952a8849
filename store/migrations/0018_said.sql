-- What a record comes to, and why an operation was stopped, as sentences and what fills them, so
-- that the sheet says them in the language of who reads it. Empty on what was written before.
ALTER TABLE op_records ADD COLUMN said TEXT NOT NULL DEFAULT '';
ALTER TABLE operations ADD COLUMN held_said TEXT NOT NULL DEFAULT '';
