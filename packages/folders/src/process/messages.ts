import type {
  Allowed,
  IntakeRules,
  NotTaken,
  Problem,
  Receipt,
  ReceiptFile,
  Standing,
  StepsInShort,
  Takes,
  WrittenFacts,
} from '@tolvik/core';
import type { FolderBelow, Whereabouts } from '../below';
import type { Taken } from '../look-and-bring';
import type { Drawings, DrawingsAsked } from '../read-drawings';

/** What a folder process is asked to do, one thing at a time, and what it answers. */
export type Work = {
  look: { asked: Taken; answer: StepsInShort };
  bring: { asked: { taken: Taken; allowed: Allowed }; answer: Standing };
  drawings: { asked: DrawingsAsked; answer: Drawings };
  where: { asked: FolderBelow; answer: Whereabouts | null };
  /** What a receiver takes of a delivery: patterns of its rules times files is a stranger's to choose. */
  take: {
    asked: {
      whole: Receipt;
      by: { rules: IntakeRules | null; takes: Takes };
      facts: ReadonlyMap<string, WrittenFacts>;
      specs: ReadonlyMap<string, string>;
    };
    answer: { wanted: Receipt; refused: NotTaken[] };
  };
};
export type Kind = keyof Work;

/** What it asks meanwhile: the bytes of a file, that its receipt is noted, whether it may still write. */
export type Question =
  | { ask: 'bytes'; n: number; file: ReceiptFile }
  | { ask: 'note'; n: number; sha256: readonly string[] }
  | { ask: 'may'; n: number };

/** Until when it may put files there without asking again, as `Date.now()` tells it. */
export type Answered = { n: number; until: number; bytes?: Uint8Array };

export type ToFolderProcess = { [K in Kind]: { kind: K; asked: Work[K]['asked']; until: number } }[Kind] | Answered;

export type FromFolderProcess =
  | Question
  /** Something was done: it is not stuck. */
  | { alive: true; done?: number; of?: number }
  | { ended: unknown }
  | { failed: { problem: Problem } | { message: string; code?: string } };
