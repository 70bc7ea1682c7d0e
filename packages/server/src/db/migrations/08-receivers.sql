-- Who takes the deliveries of a project, and how the last writing there ended.
CREATE TABLE receivers (
  id text PRIMARY KEY,
  project_id text NOT NULL REFERENCES projects ON DELETE CASCADE,
  name text NOT NULL,
  root text NOT NULL,
  folder text NOT NULL,
  is_on boolean NOT NULL DEFAULT true,
  remove_leftovers boolean NOT NULL DEFAULT false,
  replace_foreign boolean NOT NULL DEFAULT false,
  standing jsonb,
  trouble text,
  created_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX receivers_by_project ON receivers (project_id);
