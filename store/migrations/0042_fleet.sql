-- A link by which a customer sees their machines, and until when it leads there.
ALTER TABLE customers ADD COLUMN fleet_hash TEXT NOT NULL DEFAULT '';
ALTER TABLE customers ADD COLUMN fleet_until DATETIME;
