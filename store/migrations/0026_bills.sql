-- What a job is billed, in bills that are never changed once they are issued, only credited by another,
-- and what was paid. Sums are whole cents; a credit's are less than nothing.
CREATE TABLE bills (
  id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, head_id INTEGER NOT NULL REFERENCES heads(id), credits INTEGER REFERENCES bills(id) UNIQUE,
  currency TEXT NOT NULL, tax_ppm INTEGER NOT NULL, net_cents INTEGER NOT NULL, tax_cents INTEGER NOT NULL, why TEXT NOT NULL DEFAULT '',
  due DATETIME NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX bills_head ON bills (head_id);
CREATE INDEX bills_at ON bills (at);
CREATE TABLE bill_lines (
  id INTEGER PRIMARY KEY, bill_id INTEGER NOT NULL REFERENCES bills(id), seq INTEGER NOT NULL, kind TEXT NOT NULL, quote INTEGER NOT NULL,
  line INTEGER NOT NULL, name TEXT NOT NULL, positions TEXT NOT NULL, labour_cents INTEGER NOT NULL, cents INTEGER NOT NULL, UNIQUE (bill_id, seq));
CREATE TABLE payments (
  id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), cents INTEGER NOT NULL, how TEXT NOT NULL, note TEXT NOT NULL DEFAULT '',
  person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX payments_head ON payments (head_id);
CREATE INDEX payments_at ON payments (at);
CREATE TRIGGER bills_no_update BEFORE UPDATE ON bills BEGIN SELECT RAISE(ABORT, 'bills are never changed'); END;
CREATE TRIGGER bills_no_delete BEFORE DELETE ON bills BEGIN SELECT RAISE(ABORT, 'bills are never deleted'); END;
CREATE TRIGGER bill_lines_no_update BEFORE UPDATE ON bill_lines BEGIN SELECT RAISE(ABORT, 'bills are never changed'); END;
CREATE TRIGGER bill_lines_no_delete BEFORE DELETE ON bill_lines BEGIN SELECT RAISE(ABORT, 'bills are never deleted'); END;
CREATE TRIGGER payments_no_update BEFORE UPDATE ON payments BEGIN SELECT RAISE(ABORT, 'payments are never changed'); END;
CREATE TRIGGER payments_no_delete BEFORE DELETE ON payments BEGIN SELECT RAISE(ABORT, 'payments are never deleted'); END;
