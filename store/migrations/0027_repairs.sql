-- The repairs that a shop has declared itself for a model: their codes, with spaces between.
ALTER TABLE head_models ADD COLUMN own_repairs TEXT NOT NULL DEFAULT '';
