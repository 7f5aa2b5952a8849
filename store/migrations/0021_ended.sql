-- How a head ended that goes back without its work: refused, scrapped, answered, withdrawn, mistaken; in what
-- state it goes back and why; and what is owed for what was done. Empty where the work was done.
ALTER TABLE heads ADD COLUMN ended TEXT NOT NULL DEFAULT '';
ALTER TABLE heads ADD COLUMN ended_why TEXT NOT NULL DEFAULT '';
ALTER TABLE heads ADD COLUMN ended_state TEXT NOT NULL DEFAULT '';
ALTER TABLE heads ADD COLUMN owed_cents INTEGER NOT NULL DEFAULT 0;
