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
