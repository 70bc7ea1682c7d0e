/** The drawing profile: which elements, attributes and values artwork may hold. Everything that comes in passes here; nothing here reads or draws. */
export { ATTRIBUTES, DEFINITIONS, DRAWN, INHERITED, INSIDE_DEFINITIONS, SHAPES } from './allow-list';
export * from './references';
export * from './values';
