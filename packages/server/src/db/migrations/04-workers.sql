-- Rows are the queue: a worker that is alive owns what it makes.
CREATE TABLE workers (
  id text PRIMARY KEY,
  beat_at timestamptz NOT NULL DEFAULT now()
);
ALTER TABLE delivery_files ADD COLUMN worker_id text, ADD COLUMN tries smallint NOT NULL DEFAULT 0;
CREATE INDEX delivery_files_waiting ON delivery_files (delivery_id, position) WHERE state = 'waiting';
DROP SCHEMA IF EXISTS pgboss CASCADE;
