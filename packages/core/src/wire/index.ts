/** What goes over the wire: answers of the HTTP API as schemas, from which the server's document and the window's types come. */
export * from './deliveries';
export * from './files';
export * from './projects';
export * from './receivers';
export * from './sources';
