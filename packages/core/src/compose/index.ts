/** One piece through one output as a stand-alone SVG. No bytes, no pixels. */

export * from './bench-item';
export * from './canvas-steps';
export {
  type ComposedFile,
  type ComposeSources,
  type ContentLook,
  composeContent,
  composeFile,
  groundOf,
  lookFor,
  lookKey,
  offsetIn,
  type PieceContent,
  RENDERER_VERSION,
  renderKey,
} from './compose';
export * from './composer';
export * from './cover';
export { INITIAL_PAINT } from './paint';
export { printTree, readTree, type TreeNode } from './tree';
export { type Noticed, type Pictures, withPictures } from './write-layers';
