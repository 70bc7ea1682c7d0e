/** Files from outside as artwork, for the server and the command line alike: zips opened, limits kept, each file's trouble its own. */
export * from './take-files';
export * from './unzip';
