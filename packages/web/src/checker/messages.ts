import type { Finding, Meetings, Seen, Taker } from '@tolvik/core';
import type { ToMirror } from '../painter/mirror';

/** What is known beside the document: what the checks look into, too. */
export type Known = {
  projectName: string;
  lastDelivery?: { number: number; paths: readonly string[] };
  seen?: ReadonlyMap<string, Seen>;
  /** By artboard: where the colours of its artwork meet. */
  meetings?: ReadonlyMap<string, Meetings>;
  /** What the receivers take that get every export. */
  intakes?: readonly Taker[];
  /** By cell: bytes of files that were made. */
  weights?: ReadonlyMap<string, number>;
};

export type ToChecker = ToMirror | ({ kind: 'check'; id: number } & Known);
/** What the checks find, and how crisp small pictures are, by cell (`crispFinder`). */
export type Look = { findings: Finding[]; crisp: ReadonlyMap<string, number> };
export type FromChecker = { id: number } & Look;
