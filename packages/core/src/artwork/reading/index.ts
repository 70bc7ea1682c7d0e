/** From the bytes of an SVG file to layer records, and what was left out on the way. Writing is compose's. */

export * from './read-artwork';
export * from './read-svg';
