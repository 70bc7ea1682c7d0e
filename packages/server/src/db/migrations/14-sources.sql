-- A folder whose drawings feed the artboards of a project.
CREATE TABLE sources (
  project_id text PRIMARY KEY REFERENCES projects ON DELETE CASCADE,
  root text NOT NULL,
  folder text NOT NULL,
  is_on boolean NOT NULL DEFAULT true,
  files jsonb NOT NULL DEFAULT '{}',
  standing jsonb,
  trouble text
);
