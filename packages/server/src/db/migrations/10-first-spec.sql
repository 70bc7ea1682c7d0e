-- The kept spec that new projects begin with; none of them for the ready-made one.
ALTER TABLE kept_specs ADD COLUMN is_first boolean NOT NULL DEFAULT false;
CREATE UNIQUE INDEX kept_specs_first ON kept_specs (is_first) WHERE is_first;
