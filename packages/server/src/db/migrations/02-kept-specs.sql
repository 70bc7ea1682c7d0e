UPDATE records SET body = body || '{"letterCase": "project"}' WHERE kind = 'spec' AND NOT body ? 'letterCase';
-- Specs that somebody keeps for all projects.
CREATE TABLE kept_specs (
  id text PRIMARY KEY,
  name text NOT NULL,
  body jsonb NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now()
);
