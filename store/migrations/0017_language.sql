-- The language a person reads the bench in, and a customer their own page and mail.
ALTER TABLE users ADD COLUMN language TEXT NOT NULL DEFAULT 'en';
ALTER TABLE users ADD COLUMN comma NUMERIC NOT NULL DEFAULT 0; -- figures with a decimal comma
ALTER TABLE customers ADD COLUMN language TEXT NOT NULL DEFAULT 'en';
-- Why a line is quoted, as a sentence and what fills it, so that it can be said in the customer's language.
ALTER TABLE quote_lines ADD COLUMN said TEXT NOT NULL DEFAULT '';
