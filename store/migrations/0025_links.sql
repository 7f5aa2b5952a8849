-- Each link that was sent of a quote, so that an old one still says in the customer's language whose shop
-- it is and leads on.
CREATE TABLE quote_links (
  id INTEGER PRIMARY KEY, quote_id INTEGER NOT NULL REFERENCES quotes(id), token_hash TEXT NOT NULL, recipient TEXT NOT NULL DEFAULT '', at DATETIME NOT NULL);
CREATE INDEX quote_links_hash ON quote_links (token_hash);
CREATE INDEX quote_links_quote ON quote_links (quote_id);
INSERT INTO quote_links (quote_id, token_hash, at) SELECT id, token_hash, coalesce(sent_at, at) FROM quotes WHERE token_hash <> '';
-- How many of a delivery went back to the supplier after they were booked in.
ALTER TABLE part_orders ADD COLUMN returned INTEGER NOT NULL DEFAULT 0;
