-- A delivery's number is given once: not again when the newest is deleted, nor to two that begin in one moment.
ALTER TABLE projects ADD COLUMN last_delivery_number integer NOT NULL DEFAULT 0;
UPDATE projects p SET last_delivery_number = d.number
  FROM (SELECT project_id, max(number) AS number FROM deliveries GROUP BY project_id) AS d WHERE d.project_id = p.id;
