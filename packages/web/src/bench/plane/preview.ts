import { type Bounds, type Guide, IDENTITY, type Matrix, type Region } from '@tolvik/core';

/** What a gesture is doing, shown before it is done. */
export type Preview = {
  /** Pieces and layers that go along; pieces by dx, dy, layers by `matrix`, both in px of the plane. */
  moving: ReadonlySet<string>;
  dx: number;
  dy: number;
  matrix: Matrix;
  /** Items painted as one whose part is being changed, with the box they take now. */
  grown: ReadonlyMap<string, Bounds>;
  resized: { id: string; rect: Region } | null;
  drawing: { kind: 'artboard' | 'slice' | 'band' | 'shape'; rect: Region; line?: { rising: boolean } } | null;
  guides: readonly Guide[];
  /** Said beside the pointer: "+12, −4", "30°". */
  words: string;
};

export const NO_PREVIEW: Preview = {
  moving: new Set(),
  dx: 0,
  dy: 0,
  matrix: IDENTITY,
  grown: new Map(),
  resized: null,
  drawing: null,
  guides: [],
  words: '',
};
