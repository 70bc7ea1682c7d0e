/**
 * What a backup holds, in an order in which rows refer only to those that are there already. What is about servers and
 * browsers at work is left out: they say it anew.
 */
export const TABLES = [
  'projects',
  'blobs',
  'kept_specs',
  'records',
  'edits',
  'renders',
  'deliveries',
  'delivery_files',
  'delivery_blobs',
  'receivers',
  'intake_files',
  'sources',
  'handovers',
] as const;

/** All tables of ours, those that a backup leaves out among them. */
export const ALL_TABLES = [...TABLES, 'workers', 'access_sessions', 'access_places', 'migrations'] as const;
