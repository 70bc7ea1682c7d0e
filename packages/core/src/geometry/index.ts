/** Boxes, matrices, paths, viewports and the sizes of files. Numbers alone: no records, no artwork, no files. */
export { Located } from './located';
export * from './matrix';
export { type PathStep, pathBox, stepsOf } from './path-steps';
export * from './region';
export * from './shape-path';
export * from './sizes';
export { sturdyPath } from './sturdy-path';
export { parseLength, parseViewBox, viewBoxTransform } from './viewport';
