/** Artwork as SVG: reading and cleaning it, where it lies, its colours, its text as outlines. No pieces, no files. */
export * from './artwork-index';
export * from './bounds';
export * from './colours';
export * from './document-fonts';
export * from './fonts';
export * from './inherited';
export { LIMITS } from './limits';
export * from './matrix';
export * from './outline-text';
export * from './paints-at';
export * from './pictures';
export * from './read-font';
export * from './read-svg';
export * from './shape-path';
export * from './standing-out';
export { parseLength } from './viewport';
export * from './words';
export { parseXml } from './xml';
