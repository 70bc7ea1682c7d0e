/** Folders on a disk that take deliveries: looked at, written to, and what can go wrong with them in words. What has to be done is core's. */
export * from './disk-trouble';
export * from './folder';
export * from './in-turn';
export * from './no-links';
