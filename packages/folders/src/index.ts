/** Folders on a disk that take deliveries and feed projects: looked at, written to, and what can go wrong with them in words. What has to be done is core's. */
export * from './below';
export * from './disk-trouble';
export * from './held-folder';
export * from './in-turn';
export * from './look-and-bring';
export * from './node-disk';
export { FolderProcesses, type WritingFor } from './process/folder-processes';
export * from './read-drawings';
