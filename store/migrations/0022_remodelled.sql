-- 1 where a head was taken in as another model and put right: readings, findings and places of its file
-- that the present model does not have stay in the file and count no more.
ALTER TABLE heads ADD COLUMN remodelled INTEGER NOT NULL DEFAULT 0;
