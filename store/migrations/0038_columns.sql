-- What a column of a table was said to be is known the next time; rows that could not be taken in wait to be mended.
CREATE TABLE column_names (
  kind TEXT NOT NULL, name TEXT NOT NULL, means TEXT NOT NULL, written TEXT NOT NULL DEFAULT '', PRIMARY KEY (kind, name));
ALTER TABLE imports ADD COLUMN left_rows TEXT NOT NULL DEFAULT '';
