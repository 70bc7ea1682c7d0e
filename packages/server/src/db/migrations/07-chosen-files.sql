-- Whether a delivery was of all files, or of some that were chosen.
ALTER TABLE deliveries ADD COLUMN whole boolean NOT NULL DEFAULT true;
