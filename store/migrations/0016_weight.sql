-- How many times a day late of a customer's heads counts when the order of the week is weighed.
ALTER TABLE customers ADD COLUMN weight INTEGER NOT NULL DEFAULT 1;
