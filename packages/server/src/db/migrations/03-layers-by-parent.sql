-- Who lies in a group is looked up with every edit that moves or removes one.
CREATE INDEX records_by_parent ON records (project_id, (body ->> 'parentId')) WHERE kind = 'layer';
-- Keys that nothing could be put behind: of layers that another editor had added to a project file.
UPDATE records SET body = jsonb_set(body, '{order}', to_jsonb(rpad(body ->> 'order', 27, '0') || 'V')) WHERE kind = 'layer' AND body ->> 'order' LIKE 'zz%' AND length(body ->> 'order') < 27;
