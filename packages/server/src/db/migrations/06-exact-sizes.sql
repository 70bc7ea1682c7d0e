-- Vector files keep their exact size.
ALTER TABLE delivery_files ALTER COLUMN width_px TYPE double precision, ALTER COLUMN height_px TYPE double precision;
