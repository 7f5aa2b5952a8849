-- How a model's fasteners are pulled down, as JSON; empty where nobody has said.
ALTER TABLE head_models ADD COLUMN tightening TEXT NOT NULL DEFAULT '';
