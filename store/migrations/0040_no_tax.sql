-- A customer who is charged no tax, and why; a bill keeps the reason it was written with.
ALTER TABLE customers ADD COLUMN no_tax TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN no_tax TEXT NOT NULL DEFAULT '';
