-- The shop's logo, for its papers: one picture, or none.
CREATE TABLE logos (
  id INTEGER PRIMARY KEY CHECK (id = 1), jpeg BLOB NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL);
