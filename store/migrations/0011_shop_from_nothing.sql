-- U of a tool is made of what its certificate says, what a study of people and parts said, and
-- what the display can show. What is retired is offered no more; what was read with it stays.
ALTER TABLE tools ADD COLUMN cal_u INTEGER NOT NULL DEFAULT 0;
ALTER TABLE tools ADD COLUMN study_u INTEGER NOT NULL DEFAULT 0;
ALTER TABLE tools ADD COLUMN retired_at DATETIME;
UPDATE tools SET cal_u = u;
ALTER TABLE head_models ADD COLUMN retired_at DATETIME;
ALTER TABLE stock_items ADD COLUMN supplier TEXT NOT NULL DEFAULT '';
ALTER TABLE stock_items ADD COLUMN lead_days INTEGER NOT NULL DEFAULT 0;
ALTER TABLE customers ADD COLUMN address TEXT NOT NULL DEFAULT '';
ALTER TABLE customers ADD COLUMN telephone TEXT NOT NULL DEFAULT '';
ALTER TABLE customers ADD COLUMN email TEXT NOT NULL DEFAULT '';
ALTER TABLE customers ADD COLUMN note TEXT NOT NULL DEFAULT '';
ALTER TABLE customers ADD COLUMN discount_ppm INTEGER NOT NULL DEFAULT 0;
-- The shop's own characteristics name their answers: codes of repairs with spaces between.
ALTER TABLE own_characteristics ADD COLUMN repairs TEXT NOT NULL DEFAULT '';
-- Tables that were taken in, and what takes them back.
CREATE TABLE imports (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, said TEXT NOT NULL, back TEXT NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL, undone_at DATETIME);
CREATE INDEX jobs_customer ON jobs (customer_id);
CREATE INDEX heads_job ON heads (job_id);
