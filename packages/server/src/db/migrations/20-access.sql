-- Browsers that were let in, by a hash of their random token; and where the key was right before.
CREATE TABLE access_sessions (
  hash text PRIMARY KEY,
  of_key text NOT NULL,
  seen_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE access_places (
  place text PRIMARY KEY,
  right_at timestamptz NOT NULL DEFAULT now()
);
