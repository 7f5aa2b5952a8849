-- What of a quote is asked for before the work begins, in millionths of its sum with tax.
ALTER TABLE quotes ADD COLUMN deposit_ppm INTEGER NOT NULL DEFAULT 0;
