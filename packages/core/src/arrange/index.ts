/** Acts that arrange artwork and artboards on the Bench, each a function from records to records. */

export * from './align';
export * from './alike';
export * from './artboards';
export { oneSizeFor } from './bring-to-size';
export * from './copies';
export * from './for-groups';
export * from './hold';
export * from './layers';
export * from './match-layers';
export * from './move';
export * from './outermost';
export * from './outlines';
export * from './piece-order';
export * from './piece-rules';
export * from './place-artwork';
export * from './place-files';
export * from './project-colours';
export * from './rename-many';
export * from './replace-artwork';
export * from './replace-report';
export * from './rows';
export * from './shapes';
export * from './slices';
export * from './snap';
export * from './tiles';
export * from './transform';
export * from './tree-moves';
