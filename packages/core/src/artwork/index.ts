/** Artwork as SVG, a folder a topic. No pieces, no files, no screen. */
export * from './bounds';
export * from './colour';
export * from './markup';
export * from './pictures';
export * from './reading';
export * from './style';
export * from './text';
