/** Fonts, and text as the outlines of its letters. What stands on a path or from top to bottom is here too. */
export * from './document-fonts';
export * from './fonts';
export * from './outline-text';
export * from './read-font';
export * from './words';
