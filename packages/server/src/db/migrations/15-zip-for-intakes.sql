-- Whether an intake gets its files as one zip.
ALTER TABLE receivers ADD COLUMN as_zip boolean NOT NULL DEFAULT false;
