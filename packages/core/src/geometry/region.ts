/** A rectangle of the plane, in px: from its upper left corner. */
export type Region = { x: number; y: number; width: number; height: number };
