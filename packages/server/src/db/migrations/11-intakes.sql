-- Receivers that are addresses and not folders, with the headers that go along, and what they answered for each path.
ALTER TABLE receivers ADD COLUMN address text, ADD COLUMN headers jsonb NOT NULL DEFAULT '{}',
  ALTER COLUMN root DROP NOT NULL, ALTER COLUMN folder DROP NOT NULL,
  ADD CONSTRAINT receivers_kind CHECK ((address IS NULL) = (root IS NOT NULL AND folder IS NOT NULL));
CREATE TABLE intake_files (
  receiver_id text NOT NULL REFERENCES receivers ON DELETE CASCADE,
  path text NOT NULL,
  sha256 text NOT NULL,
  bytes bigint NOT NULL,
  -- Null when it was taken, else why it was not.
  refused text,
  delivery_id text NOT NULL,
  answered_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (receiver_id, path)
);
CREATE INDEX intake_files_by_delivery ON intake_files (delivery_id);
