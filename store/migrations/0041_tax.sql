-- Parts can be taxed at another rate than labour; a customer can owe the tax themselves, or read prices with
-- it; a bill keeps who sold and who bought as they were when it was issued.
ALTER TABLE quotes ADD COLUMN parts_tax_ppm INTEGER NOT NULL DEFAULT 0;
UPDATE quotes SET parts_tax_ppm = tax_ppm;
ALTER TABLE quotes ADD COLUMN prices TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN parts_tax_ppm INTEGER NOT NULL DEFAULT 0;
UPDATE bills SET parts_tax_ppm = tax_ppm;
ALTER TABLE bills ADD COLUMN reverse BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE bills ADD COLUMN prices TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN said TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN seller_name TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN seller_address TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN seller_country TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN seller_tax_no TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN buyer_name TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN buyer_address TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN buyer_country TEXT NOT NULL DEFAULT '';
ALTER TABLE bills ADD COLUMN buyer_tax_no TEXT NOT NULL DEFAULT '';
ALTER TABLE customers ADD COLUMN taxed TEXT NOT NULL DEFAULT '';
UPDATE customers SET taxed = 'exempt' WHERE no_tax <> '';
ALTER TABLE customers ADD COLUMN tax_no TEXT NOT NULL DEFAULT '';
ALTER TABLE customers ADD COLUMN country TEXT NOT NULL DEFAULT '';
ALTER TABLE customers ADD COLUMN prices TEXT NOT NULL DEFAULT '';
ALTER TABLE bill_lines ADD COLUMN service_cents INTEGER NOT NULL DEFAULT 0;
