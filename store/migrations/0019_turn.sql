-- When work was begun, and tests and findings written down, in the order of what happened in the shop:
-- the newest event there was. Clocks jump; this does not. 0 on what was written before.
ALTER TABLE operations ADD COLUMN begun_turn INTEGER NOT NULL DEFAULT 0;
ALTER TABLE op_records ADD COLUMN turn INTEGER NOT NULL DEFAULT 0;
ALTER TABLE findings ADD COLUMN turn INTEGER NOT NULL DEFAULT 0;
