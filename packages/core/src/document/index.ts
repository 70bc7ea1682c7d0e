/** What a project is made of: records, edits, order. Nothing here knows SVG, pixels or files. */
export * from './document';
export * from './edits';
export { meansNothing } from './given-names';
export * from './ids';
export * from './order';
export * from './records';
export * from './titles';
