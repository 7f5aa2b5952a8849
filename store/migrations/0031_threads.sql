-- The thread of a hole that a mark is at: M10x1.25; empty where nobody has said.
ALTER TABLE findings ADD COLUMN thread TEXT NOT NULL DEFAULT '';
