import type { Leaf } from '../artwork/bounds/bounds';
import type { Seen } from '../artwork/bounds/standing-out';
import type { Fonts } from '../artwork/text/fonts';
import type { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import type { Taker } from '../handover/takes';
import type { Piece } from '../pieces/pieces';
import type { Plan, PlannedFile } from '../plan/plan';
import type { Meetings } from '../variants/meetings';

/** `error` holds the export up; `warning` will likely disappoint; `hint` is worth knowing. */
export type Severity = 'error' | 'warning' | 'hint';

/** One thing a check found: plain data, so that it can cross from a worker. */
export type Finding = {
  check: string;
  severity: Severity;
  /** '' when it concerns the project as a whole. */
  pieceId: string;
  /** When it concerns one file of the piece. */
  outputId?: string;
  /** One sentence without its full stop, for people. */
  message: string;
  /** What the mend does, when there is one: "Whole pixels". */
  mend?: string;
  /** What it is about, for its mend: a colour, a size. */
  about?: string;
  /** Why somebody said it is all right; it stays so until what it says changes. */
  accepted?: string;
};

export type Surroundings = {
  doc: ProjectDocument;
  plan: Plan;
  fonts: Fonts;
  /** Size of a picture in its own pixels; undefined while it is not known. */
  pictureSize?(hash: string): { width: number; height: number } | undefined;
  /** What of the rendered file can be told from its ground; undefined while nothing was rendered, or there is no ground. */
  seenOf?(pieceId: string, outputId: string): Seen | undefined;
  /** Where the colours of an artboard's artwork meet; undefined while it was not measured. */
  meetingsOf?(artboardId: string): Meetings | undefined;
  /** What the receivers take that get every export. */
  intakes?: readonly Taker[];
  /** Weight of a file that was made; undefined until then. */
  bytesOf?(pieceId: string, outputId: string): number | undefined;
  /** The files of the newest finished delivery. */
  lastDelivery?: { number: number; paths: readonly string[] };
};

/** A piece with what a check may look at. */
export type Looked = {
  piece: Piece;
  /** Visible drawn elements in the piece. */
  leaves: readonly Leaf[];
  /** Hidden and bench-only ones too. */
  allLeaves: readonly Leaf[];
  /** Its planned files. */
  files: readonly PlannedFile[];
  /** For each of them, what can be told from its ground as it was rendered. */
  seen: readonly (Seen | undefined)[];
};

export type Check = {
  name: string;
  /** What is said of several pieces that it found the same of: “cannot be made”. */
  plural: string;
  /** What it looks for, in a sentence. */
  about: string;
  /** A case in which it speaks. */
  example: string;
  /** Looks at one piece by itself. */
  look?(looked: Looked, surroundings: Surroundings): Omit<Finding, 'check' | 'pieceId'>[];
  /** Looks at all pieces together, for what shows only in comparison. */
  survey?(all: readonly Looked[], surroundings: Surroundings): Omit<Finding, 'check'>[];
  /** The change that settles a finding of this check; null when there is nothing to do any more. */
  mend?(finding: Finding, surroundings: Surroundings): Change | null;
};
