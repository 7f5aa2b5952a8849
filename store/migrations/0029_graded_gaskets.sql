-- Up to how far pistons may stand out under a gasket of the stock list; 0: it is not chosen by that.
ALTER TABLE stock_items ADD COLUMN up_to_nm INTEGER NOT NULL DEFAULT 0;
