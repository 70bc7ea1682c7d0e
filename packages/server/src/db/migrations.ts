/** Numbered steps from an empty database to today's; one that has run is never changed. */
export const MIGRATIONS: readonly string[] = [
  `
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
  `,
  `
  UPDATE records SET body = body || '{"letterCase": "project"}' WHERE kind = 'spec' AND NOT body ? 'letterCase';
  -- Specs that somebody keeps for all projects.
  CREATE TABLE kept_specs (
    id text PRIMARY KEY,
    name text NOT NULL,
    body jsonb NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now()
  );
  `,
  `
  -- Who lies in a group is looked up with every edit that moves or removes one.
  CREATE INDEX records_by_parent ON records (project_id, (body ->> 'parentId')) WHERE kind = 'layer';
  -- Keys that nothing could be put behind: of layers that another editor had added to a project file.
  UPDATE records SET body = jsonb_set(body, '{order}', to_jsonb(rpad(body ->> 'order', 27, '0') || 'V')) WHERE kind = 'layer' AND body ->> 'order' LIKE 'zz%' AND length(body ->> 'order') < 27;
  `,
  `
  -- Rows are the queue: a worker that is alive owns what it makes.
  CREATE TABLE workers (
    id text PRIMARY KEY,
    beat_at timestamptz NOT NULL DEFAULT now()
  );
  ALTER TABLE delivery_files ADD COLUMN worker_id text, ADD COLUMN tries smallint NOT NULL DEFAULT 0;
  CREATE INDEX delivery_files_waiting ON delivery_files (delivery_id, position) WHERE state = 'waiting';
  DROP SCHEMA IF EXISTS pgboss CASCADE;
  `,
  `
  -- What nobody needs any more goes: see db/purge.ts for the rules.
  ALTER TABLE projects ADD COLUMN journal_from integer NOT NULL DEFAULT 0, ADD COLUMN cover_of text, ADD COLUMN cover_key text;
  ALTER TABLE blobs ADD COLUMN put_at timestamptz NOT NULL DEFAULT now(), ADD COLUMN held boolean NOT NULL DEFAULT false;
  -- Which of these the deliveries until now show, nobody wrote down.
  UPDATE blobs SET held = true WHERE media_type <> 'application/gzip' AND EXISTS (SELECT 1 FROM deliveries);
  CREATE TABLE delivery_blobs (
    delivery_id text NOT NULL REFERENCES deliveries ON DELETE CASCADE,
    hash text NOT NULL,
    PRIMARY KEY (delivery_id, hash)
  );
  CREATE INDEX delivery_blobs_by_hash ON delivery_blobs (hash);
  CREATE INDEX deliveries_by_snapshot ON deliveries (snapshot);
  CREATE INDEX records_by_picture ON records ((body #>> '{attrs,href}')) WHERE body #>> '{attrs,href}' IS NOT NULL;
  CREATE INDEX records_by_font ON records ((body ->> 'hash')) WHERE kind = 'font';
  CREATE INDEX edits_by_age ON edits (created_at);
  -- What the Shelf says of a project, counted once for each version.
  ALTER TABLE projects ADD COLUMN counted_of integer, ADD COLUMN counts jsonb;
  -- What was measured stays with the delivery, also when the bytes went and would be made again.
  ALTER TABLE delivery_files ADD COLUMN measured jsonb;
  UPDATE delivery_files f SET measured = r.measured FROM renders r WHERE r.key = f.render_key AND f.state = 'made';
  `,
  `
  -- Vector files keep their exact size.
  ALTER TABLE delivery_files ALTER COLUMN width_px TYPE double precision, ALTER COLUMN height_px TYPE double precision;
  `,
  `
  -- Whether a delivery was of all files, or of some that were chosen.
  ALTER TABLE deliveries ADD COLUMN whole boolean NOT NULL DEFAULT true;
  `,
  `
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
  `,
  `
  -- What a receiver takes; null for anything.
  ALTER TABLE receivers ADD COLUMN rules jsonb;
  `,
  `
  -- The kept spec that new projects begin with; none of them for the ready-made one.
  ALTER TABLE kept_specs ADD COLUMN is_first boolean NOT NULL DEFAULT false;
  CREATE UNIQUE INDEX kept_specs_first ON kept_specs (is_first) WHERE is_first;
  `,
  `
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
  `,
  `
  -- What a delivery is called, and what is said of it.
  ALTER TABLE deliveries ADD COLUMN title text NOT NULL DEFAULT '', ADD COLUMN note text NOT NULL DEFAULT '';
  `,
  `
  -- Receivers that follow the project, which files are meant for a receiver, and the deliveries that edits make.
  ALTER TABLE receivers ADD COLUMN follows boolean NOT NULL DEFAULT false,
    ADD COLUMN takes jsonb NOT NULL DEFAULT '{"specIds": null, "pieceIds": null}';
  ALTER TABLE deliveries ADD COLUMN by_edit boolean NOT NULL DEFAULT false;
  `,
  `
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
  `,
  `
  -- Whether an intake gets its files as one zip.
  ALTER TABLE receivers ADD COLUMN as_zip boolean NOT NULL DEFAULT false;
  `,
  `
  -- Several folders feed a project; of two drawings of one name, that of the folder that was linked first.
  ALTER TABLE sources ADD COLUMN id text, ADD COLUMN linked_at timestamptz NOT NULL DEFAULT now();
  UPDATE sources SET id = project_id;
  ALTER TABLE sources ALTER COLUMN id SET NOT NULL, DROP CONSTRAINT sources_pkey, ADD PRIMARY KEY (id),
    ADD UNIQUE (project_id, root, folder);
  `,
  `
  -- How many rows a project or a delivery has says nothing of the next one's: by what the last ANALYZE saw, a new one has
  -- none, any index on it then seems to find its row at once, and every edit read the whole project. Of a column
  -- without statistics some rows are expected always. Taking its type anew drops those that are there.
  ALTER TABLE records ALTER COLUMN project_id TYPE text, ALTER COLUMN project_id SET STATISTICS 0;
  ALTER TABLE edits ALTER COLUMN project_id TYPE text, ALTER COLUMN project_id SET STATISTICS 0;
  ALTER TABLE delivery_files ALTER COLUMN delivery_id TYPE text, ALTER COLUMN delivery_id SET STATISTICS 0;
  `,
  `
  -- A delivery's number is given once: not again when the newest is deleted, nor to two that begin in one moment.
  ALTER TABLE projects ADD COLUMN last_delivery_number integer NOT NULL DEFAULT 0;
  UPDATE projects p SET last_delivery_number = d.number
    FROM (SELECT project_id, max(number) AS number FROM deliveries GROUP BY project_id) AS d WHERE d.project_id = p.id;
  `,
  `
  -- Each hand-over of a delivery to a receiver is a row, taken by a server that may write there and holds it by a lease.
  CREATE TABLE handovers (
    id text PRIMARY KEY,
    number bigint GENERATED ALWAYS AS IDENTITY,
    receiver_id text NOT NULL REFERENCES receivers ON DELETE CASCADE,
    delivery_id text NOT NULL REFERENCES deliveries ON DELETE CASCADE,
    -- What somebody allowed for this one alone; null where the receiver's own settings count.
    remove_leftovers boolean,
    replace_foreign boolean,
    state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'failed', 'stopped')),
    worker_id text,
    leased_until timestamptz,
    -- Not taken again before, after trouble that may pass.
    not_before timestamptz,
    -- How often it was taken since it last came further.
    tries smallint NOT NULL DEFAULT 0,
    done integer NOT NULL DEFAULT 0,
    total integer,
    stop_asked boolean NOT NULL DEFAULT false,
    trouble text,
    -- The code of the refusal that ended it, for programs.
    code text,
    created_at timestamptz NOT NULL DEFAULT now(),
    ended_at timestamptz
  );
  CREATE INDEX handovers_waiting ON handovers (receiver_id, number) WHERE state = 'waiting';
  CREATE INDEX handovers_by_delivery ON handovers (delivery_id);
  CREATE INDEX handovers_by_receiver ON handovers (receiver_id, number);
  -- SHA-256 of the receipts that this project wrote there, the newest first; null for receivers of before, of which nobody
  -- noted them.
  ALTER TABLE receivers ADD COLUMN receipts text[];
  UPDATE receivers SET receipts = '{}' WHERE standing IS NULL;
  ALTER TABLE receivers ALTER COLUMN receipts SET DEFAULT '{}';
  -- Where a server may hand over to; null for one that hands nothing over.
  ALTER TABLE workers ADD COLUMN folders text[], ADD COLUMN intakes text[];
  `,
  `
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
  `,
];
