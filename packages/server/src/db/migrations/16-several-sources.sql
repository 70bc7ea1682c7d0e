-- Several folders feed a project; of two drawings of one name, that of the folder that was linked first.
ALTER TABLE sources ADD COLUMN id text, ADD COLUMN linked_at timestamptz NOT NULL DEFAULT now();
UPDATE sources SET id = project_id;
ALTER TABLE sources ALTER COLUMN id SET NOT NULL, DROP CONSTRAINT sources_pkey, ADD PRIMARY KEY (id),
  ADD UNIQUE (project_id, root, folder);
