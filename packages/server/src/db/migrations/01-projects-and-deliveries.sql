CREATE TABLE projects (
  id text PRIMARY KEY,
  name text NOT NULL,
  version integer NOT NULL DEFAULT 0,
  created_at timestamptz NOT NULL DEFAULT now(),
  updated_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz
);
CREATE TABLE records (
  project_id text NOT NULL REFERENCES projects ON DELETE CASCADE,
  id text NOT NULL,
  kind text NOT NULL,
  body jsonb NOT NULL,
  version integer NOT NULL,
  PRIMARY KEY (project_id, id)
);
CREATE INDEX records_by_version ON records (project_id, version);
CREATE TABLE edits (
  project_id text NOT NULL REFERENCES projects ON DELETE CASCADE,
  id text NOT NULL,
  version integer NOT NULL,
  label text NOT NULL,
  removes text[] NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (project_id, id)
);
CREATE UNIQUE INDEX edits_by_version ON edits (project_id, version);
CREATE TABLE blobs (
  hash text PRIMARY KEY,
  media_type text NOT NULL,
  bytes bytea NOT NULL
);
ALTER TABLE blobs ALTER COLUMN bytes SET STORAGE EXTERNAL;
CREATE TABLE renders (
  key text PRIMARY KEY,
  media_type text NOT NULL,
  bytes bytea NOT NULL,
  size integer NOT NULL,
  measured jsonb NOT NULL,
  used_at timestamptz NOT NULL DEFAULT now()
);
ALTER TABLE renders ALTER COLUMN bytes SET STORAGE EXTERNAL;
CREATE TABLE deliveries (
  id text PRIMARY KEY,
  project_id text NOT NULL REFERENCES projects ON DELETE CASCADE,
  number integer NOT NULL,
  state text NOT NULL CHECK (state IN ('running', 'done', 'stopped')),
  version integer NOT NULL,
  snapshot text NOT NULL REFERENCES blobs,
  total integer NOT NULL,
  made integer NOT NULL DEFAULT 0,
  failed integer NOT NULL DEFAULT 0,
  bytes bigint NOT NULL DEFAULT 0,
  created_at timestamptz NOT NULL DEFAULT now(),
  finished_at timestamptz,
  UNIQUE (project_id, number)
);
CREATE TABLE delivery_files (
  delivery_id text NOT NULL REFERENCES deliveries ON DELETE CASCADE,
  position integer NOT NULL,
  path text NOT NULL,
  piece_id text NOT NULL,
  output_id text NOT NULL,
  format text NOT NULL,
  width_px integer NOT NULL,
  height_px integer NOT NULL,
  dpi real NOT NULL,
  render_key text NOT NULL,
  state text NOT NULL CHECK (state IN ('waiting', 'made', 'failed')),
  error text,
  PRIMARY KEY (delivery_id, position)
);
CREATE INDEX delivery_files_by_key ON delivery_files (render_key);
