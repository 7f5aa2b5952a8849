-- Quotes, approvals, records of operations, parts and their movements, mail, reminders.
-- Money is whole cents. Approvals, movements and mail are append-only.
CREATE TABLE quotes (
  id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), version INTEGER NOT NULL, kind TEXT NOT NULL, note TEXT NOT NULL DEFAULT '', currency TEXT NOT NULL, tax_ppm INTEGER NOT NULL, minimum_cents INTEGER NOT NULL DEFAULT 0, discount_ppm INTEGER NOT NULL DEFAULT 0,
  ready DATETIME, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL, sent_at DATETIME, token_hash TEXT NOT NULL DEFAULT '', expires_at DATETIME, UNIQUE (head_id, version));
CREATE INDEX quotes_token ON quotes (token_hash);
CREATE TABLE quote_lines (
  id INTEGER PRIMARY KEY, quote_id INTEGER NOT NULL REFERENCES quotes(id), seq INTEGER NOT NULL, grp TEXT NOT NULL, code TEXT NOT NULL, name TEXT NOT NULL, positions TEXT NOT NULL DEFAULT '', reason TEXT NOT NULL, minutes INTEGER NOT NULL, labour_cents INTEGER NOT NULL, parts TEXT NOT NULL DEFAULT '', parts_cents INTEGER NOT NULL, UNIQUE (quote_id, seq));
CREATE TABLE approvals (
  id INTEGER PRIMARY KEY, quote_id INTEGER NOT NULL UNIQUE REFERENCES quotes(id), name TEXT NOT NULL, how TEXT NOT NULL, answers TEXT NOT NULL, frozen TEXT NOT NULL, person_id INTEGER NOT NULL DEFAULT 0, at DATETIME NOT NULL);
CREATE TABLE mails (id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), recipient TEXT NOT NULL, subject TEXT NOT NULL, body TEXT NOT NULL, at DATETIME NOT NULL, sent_at DATETIME, failed TEXT NOT NULL DEFAULT '');
CREATE TABLE op_records (id INTEGER PRIMARY KEY, operation_id INTEGER NOT NULL REFERENCES operations(id), kind TEXT NOT NULL, position TEXT NOT NULL DEFAULT '', data TEXT NOT NULL, ok INTEGER NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX op_records_operation ON op_records (operation_id);
ALTER TABLE operations ADD COLUMN held TEXT NOT NULL DEFAULT '';
ALTER TABLE operations ADD COLUMN added TEXT NOT NULL DEFAULT '';
CREATE TABLE stock_items (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL UNIQUE, size_nm INTEGER NOT NULL DEFAULT 0, model_id INTEGER NOT NULL DEFAULT 0, role TEXT NOT NULL DEFAULT '', price_cents INTEGER NOT NULL, cost_cents INTEGER NOT NULL DEFAULT 0, least INTEGER NOT NULL DEFAULT 0, dims TEXT NOT NULL DEFAULT '');
CREATE TABLE movements (id INTEGER PRIMARY KEY, item_id INTEGER NOT NULL REFERENCES stock_items(id), count INTEGER NOT NULL, kind TEXT NOT NULL, head_id INTEGER NOT NULL DEFAULT 0, why TEXT NOT NULL DEFAULT '', person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL);
CREATE INDEX movements_item ON movements (item_id);
CREATE TABLE part_orders (id INTEGER PRIMARY KEY, item_id INTEGER NOT NULL REFERENCES stock_items(id), count INTEGER NOT NULL, head_id INTEGER NOT NULL DEFAULT 0, due DATETIME NOT NULL, person_id INTEGER NOT NULL REFERENCES users(id), at DATETIME NOT NULL, received_at DATETIME, measured TEXT NOT NULL DEFAULT '', ok INTEGER NOT NULL DEFAULT 0);
CREATE TABLE reminders (id INTEGER PRIMARY KEY, head_id INTEGER NOT NULL REFERENCES heads(id), due DATETIME NOT NULL, what TEXT NOT NULL, done_at DATETIME);
ALTER TABLE heads ADD COLUMN releaser TEXT NOT NULL DEFAULT '';
ALTER TABLE heads ADD COLUMN licence TEXT NOT NULL DEFAULT '';
CREATE TRIGGER approvals_no_update BEFORE UPDATE ON approvals BEGIN SELECT RAISE(ABORT, 'approvals are never changed'); END;
CREATE TRIGGER approvals_no_delete BEFORE DELETE ON approvals BEGIN SELECT RAISE(ABORT, 'approvals are never deleted'); END;
CREATE TRIGGER movements_no_update BEFORE UPDATE ON movements BEGIN SELECT RAISE(ABORT, 'movements are never changed'); END;
