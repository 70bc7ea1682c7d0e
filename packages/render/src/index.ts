/** From a composed SVG to bytes, measured. The pool keeps it out of the caller's process. */

export { checkPixels, type Pixels } from './draw-pixels';
export { measureEps } from './formats/eps';
export { measurePdf } from './formats/pdf';
export { svgoConfig } from './formats/svg';
export { guard } from './guard';
export * from './job';
export { measureJpeg } from './jpeg/measure';
export { drawnMeetings, pixelsOf } from './meetings';
export { withInkOutlines } from './outlines/ink-outlines';
export { type Outliner, outlineHere, outlineInThread } from './outlines/outliner';
export { encodePng, unpremultiply } from './png/encode';
export { measurePng } from './png/measure';
export * from './pool/pool';
export * from './rasterise';
export * from './render-file';
export * from './shipped-fonts';
export { ownThreadId, WorkLimit, waitedMs, workedMs } from './time-used';
