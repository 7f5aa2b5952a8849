-- 1 where an order was called off before it came.
ALTER TABLE part_orders ADD COLUMN cancelled INTEGER NOT NULL DEFAULT 0;
