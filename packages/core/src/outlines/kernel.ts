/** A path in the kernel's own memory: the caller deletes it. A method returns null when it fails. */
export type KernelPath = {
  delete(): void;
  copy(): KernelPath;
  /** Verbs with their numbers: 0 move, 1 line, 2 quadratic, 3 conic with its weight, 4 cubic, 5 close. */
  toCmds(): number[][];
  /** The nine numbers of a matrix, row by row. */
  transform(...matrix: number[]): KernelPath | null;
  dash(on: number, off: number, phase: number): KernelPath | null;
  stroke(options: { width: number; miter_limit: number; join: object; cap: object }): KernelPath | null;
  simplify(): KernelPath | null;
  op(other: KernelPath, operation: object): KernelPath | null;
  setFillType(type: object): void;
  computeTightBounds(): { fLeft: number; fTop: number; fRight: number; fBottom: number };
};

/** The part of the `pathkit-wasm` module that this package calls; the module ships without types. */
export type PathKernel = {
  FromCmds(commands: readonly (readonly number[])[]): KernelPath;
  PathOp: Record<'UNION' | 'INTERSECT' | 'DIFFERENCE', object>;
  FillType: Record<'WINDING' | 'EVENODD', object>;
  StrokeJoin: Record<'MITER' | 'ROUND' | 'BEVEL', object>;
  StrokeCap: Record<'BUTT' | 'ROUND' | 'SQUARE', object>;
};

/** There is no outline, or the kernel has no answer: the caller keeps what it had. `isFinal` when another way has none either. */
export class NoOutline extends Error {
  constructor(
    message: string,
    readonly isFinal = false,
  ) {
    super(message);
    this.name = 'NoOutline';
  }
}
