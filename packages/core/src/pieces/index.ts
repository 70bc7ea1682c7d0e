/** What becomes files: artboards, editions and slices, in one numbered list. */
export * from './lost';
export * from './pieces';
export * from './placements';
export * from './smallest';
