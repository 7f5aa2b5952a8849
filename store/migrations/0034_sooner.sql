-- An earlier day that a line of a quote offers for a surcharge, and until when it is held for the customer.
ALTER TABLE quote_lines ADD COLUMN sooner DATETIME;
ALTER TABLE quote_lines ADD COLUMN held DATETIME;
