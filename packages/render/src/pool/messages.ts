import type { Measured, RenderJob } from '../job';

/** Jobs go and results come in batches: a write to a pipe costs as much as drawing a small icon. */
export type ToChild = {
  jobs?: { id: number; job: RenderJob }[];
  /** Jobs that it need not do after all, by id. */
  back?: number[];
};

export type Result = { id: number; bytes: Uint8Array; measured: Measured } | { id: number; failure: string };

export type FromChild = {
  results: Result[];
  /** The job that is begun with this message. */
  started?: number;
};
