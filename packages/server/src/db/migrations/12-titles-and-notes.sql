-- What a delivery is called, and what is said of it.
ALTER TABLE deliveries ADD COLUMN title text NOT NULL DEFAULT '', ADD COLUMN note text NOT NULL DEFAULT '';
