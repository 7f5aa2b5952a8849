-- A bill may be of several heads of one order: each line says whose work it is; 0 on older ones: the bill's own head.
ALTER TABLE bill_lines ADD COLUMN head_id INTEGER NOT NULL DEFAULT 0;
