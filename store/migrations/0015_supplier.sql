-- What the supplier last said of a part: what it costs in cents, 0 for unknown, how many days it
-- takes, and a word with it.
ALTER TABLE stock_items ADD COLUMN offer_cents INTEGER NOT NULL DEFAULT 0;
ALTER TABLE stock_items ADD COLUMN offer_days INTEGER NOT NULL DEFAULT 0;
ALTER TABLE stock_items ADD COLUMN offer_note TEXT NOT NULL DEFAULT '';
