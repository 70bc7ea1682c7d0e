/** Pieces as they were in an earlier version of the project: what differs, and the change that takes it back. */
export * from './changed-since';
export * from './take-back';
