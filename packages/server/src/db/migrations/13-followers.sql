-- Receivers that follow the project, which files are meant for a receiver, and the deliveries that edits make.
ALTER TABLE receivers ADD COLUMN follows boolean NOT NULL DEFAULT false,
  ADD COLUMN takes jsonb NOT NULL DEFAULT '{"specIds": null, "pieceIds": null}';
ALTER TABLE deliveries ADD COLUMN by_edit boolean NOT NULL DEFAULT false;
