-- What a receiver takes; null for anything.
ALTER TABLE receivers ADD COLUMN rules jsonb;
