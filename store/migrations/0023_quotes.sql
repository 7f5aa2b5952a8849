-- How many parts of a line had no known price when it was written; whether a quote was sent saying that such
-- prices follow; and which kinds of parts a head's customer brings.
ALTER TABLE quote_lines ADD COLUMN unpriced INTEGER NOT NULL DEFAULT 0;
ALTER TABLE quotes ADD COLUMN follow INTEGER NOT NULL DEFAULT 0;
ALTER TABLE heads ADD COLUMN theirs TEXT NOT NULL DEFAULT '';
-- What the shop takes on itself of a quote's must lines, in millionths, why, and to what of the earlier visit it is
-- charged.
ALTER TABLE quotes ADD COLUMN goodwill_ppm INTEGER NOT NULL DEFAULT 0;
ALTER TABLE quotes ADD COLUMN goodwill_why TEXT NOT NULL DEFAULT '';
ALTER TABLE quotes ADD COLUMN charged_to TEXT NOT NULL DEFAULT '';
