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
