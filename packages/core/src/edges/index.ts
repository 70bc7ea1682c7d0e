/** Edges of a drawing and how they lie on the pixels of a file. */

export { crispFinder, showsEdges } from './crisp-files';
export { type CrisperPlace, crisperPlace, crispnessMoved, movedTo, ownGrid } from './crispest-place';
export { CRISP_ENOUGH, type Crispness, crispestShift, crispness, edgesIn, type Grid, type OffEdge } from './crispness';
export { type Fitted, type FitWidths, fittedEdges, wholeStrokes } from './fit/fit-edges';
