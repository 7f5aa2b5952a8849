-- How many of each part are there, and how many are set aside for each head: kept as movements
-- are written, so that the stock takes as long to count after ten years as after ten days.
CREATE TABLE stock_sums (item_id INTEGER PRIMARY KEY REFERENCES stock_items(id), n INTEGER NOT NULL, reserved INTEGER NOT NULL);
CREATE TABLE stock_reserved (
  item_id INTEGER NOT NULL REFERENCES stock_items(id), head_id INTEGER NOT NULL, n INTEGER NOT NULL, PRIMARY KEY (head_id, item_id)) WITHOUT ROWID;
INSERT INTO stock_sums (item_id, n, reserved)
  SELECT item_id, sum(CASE WHEN kind = 'reserve' THEN 0 ELSE count END), sum(CASE WHEN kind = 'reserve' THEN count ELSE 0 END) FROM movements GROUP BY item_id;
INSERT INTO stock_reserved (item_id, head_id, n)
  SELECT item_id, head_id, sum(count) FROM movements WHERE kind = 'reserve' GROUP BY item_id, head_id HAVING sum(count) <> 0;
CREATE TRIGGER movement_written AFTER INSERT ON movements BEGIN
  INSERT INTO stock_sums (item_id, n, reserved)
    VALUES (NEW.item_id, CASE WHEN NEW.kind = 'reserve' THEN 0 ELSE NEW.count END, CASE WHEN NEW.kind = 'reserve' THEN NEW.count ELSE 0 END)
    ON CONFLICT (item_id) DO UPDATE SET n = n + excluded.n, reserved = reserved + excluded.reserved;
  INSERT INTO stock_reserved (item_id, head_id, n) SELECT NEW.item_id, NEW.head_id, NEW.count WHERE NEW.kind = 'reserve'
    ON CONFLICT (head_id, item_id) DO UPDATE SET n = n + excluded.n;
  DELETE FROM stock_reserved WHERE head_id = NEW.head_id AND item_id = NEW.item_id AND n = 0;
END;
CREATE TRIGGER movement_taken_back AFTER DELETE ON movements BEGIN
  UPDATE stock_sums SET n = n - CASE WHEN OLD.kind = 'reserve' THEN 0 ELSE OLD.count END,
    reserved = reserved - CASE WHEN OLD.kind = 'reserve' THEN OLD.count ELSE 0 END WHERE item_id = OLD.item_id;
  INSERT INTO stock_reserved (item_id, head_id, n) SELECT OLD.item_id, OLD.head_id, -OLD.count WHERE OLD.kind = 'reserve'
    ON CONFLICT (head_id, item_id) DO UPDATE SET n = n + excluded.n;
  DELETE FROM stock_reserved WHERE head_id = OLD.head_id AND item_id = OLD.item_id AND n = 0;
END;
-- A stock item that is taken back leaves no sum behind.
CREATE TRIGGER item_taken_back BEFORE DELETE ON stock_items BEGIN
  DELETE FROM stock_sums WHERE item_id = OLD.id;
END;
CREATE INDEX operations_done ON operations (finished_at) WHERE state = 'done' AND started_at IS NOT NULL;
CREATE INDEX heads_handed ON heads (handed_over_at) WHERE handed_over_at IS NOT NULL;
CREATE INDEX heads_open ON heads (id) WHERE handed_over_at IS NULL;
CREATE INDEX heads_earlier ON heads (earlier) WHERE earlier <> '';
