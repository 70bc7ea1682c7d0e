/** One piece through one output as a stand-alone SVG. No bytes, no pixels. */

export * from './bench-items';
export * from './bench-view';
export * from './canvas-steps';
export {
  type ComposedFile,
  type ComposedPage,
  type ComposeSources,
  composeContent,
  composeFile,
  type PieceContent,
  renderKey,
} from './compose';
export * from './composer';
export * from './cover';
export { isInkMask } from './ids';
export { offsetIn } from './layers-in';
export * from './look';
export * from './meetings-view';
export type { PageText } from './page-words';
export { INITIAL_PAINT } from './paint';
export { pictureChanges } from './picture-changes';
export { boxIn, pictureBox } from './rasteriser/boxes';
export { filterReach, thickestMorphology } from './rasteriser/filter-reach';
export { boxAttributes, withoutLayersOffPage } from './rasteriser/off-page';
export { RENDERER_VERSION } from './renderer-version';
export { printTree, readTree, type TreeNode } from './tree';
export { type Noticed, type Pictures, withPictures } from './write-layers';
