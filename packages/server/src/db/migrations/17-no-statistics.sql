-- How many rows a project or a delivery has says nothing of the next one's: by what the last ANALYZE saw, a new one has
-- none, any index on it then seems to find its row at once, and every edit read the whole project. Of a column
-- without statistics some rows are expected always. Taking its type anew drops those that are there.
ALTER TABLE records ALTER COLUMN project_id TYPE text, ALTER COLUMN project_id SET STATISTICS 0;
ALTER TABLE edits ALTER COLUMN project_id TYPE text, ALTER COLUMN project_id SET STATISTICS 0;
ALTER TABLE delivery_files ALTER COLUMN delivery_id TYPE text, ALTER COLUMN delivery_id SET STATISTICS 0;
