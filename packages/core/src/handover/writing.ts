import { refuse } from '../basics/problem';
import { asWritten, type IntakeRules, refusals, type WrittenFacts } from './intake-rules';
import { type Begun, RECEIPT_NAME, type Receipt, type ReceiptFile } from './receipt';
import {
  type Allowed,
  allowedSteps,
  type FolderSteps,
  type Found,
  folderSteps,
  type Known,
  receiptAfter,
} from './steps';
import { meantFor, type Takes } from './takes';

/** What lies in a folder, and what an earlier writing left there. */
export type FolderNow = {
  there: Map<string, Found>;
  /** With the delivery that it was of and whose, where there is a receipt of one. */
  last: (Known & Partial<Pick<Receipt, 'delivery' | 'project'>>) | null;
  begun: Begun;
  /** Paths that a receipt names which nobody knows to be ours: what lies there is told and left alone. */
  disowned?: readonly string[];
  /** Whether something that is no receipt has its name. */
  otherReceipt?: boolean;
};

/**
 * What a folder's receipt is worth. One that this project did not write into this folder may be a stranger's: what it
 * says of files that are wanted helps to tell them apart, but nothing is taken away on its word.
 */
export function asOwned(
  last: Receipt | null,
  wanted: ReadonlySet<string>,
  isOwn: boolean,
): Pick<FolderNow, 'last' | 'disowned'> {
  if (!last || isOwn) return { last };
  const files = last.files.filter(({ path }) => wanted.has(path));
  const others = [...last.files, ...last.leftovers].map(({ path }) => path).filter((path) => !wanted.has(path));
  return { last: { ...last, files, leftovers: [] }, disowned: others };
}

/** The paths to look at in a folder: those that are wanted, and those that its last receipt knows. */
export const pathsToLookAt = (wanted: Iterable<string>, last: Known | null): Set<string> =>
  new Set([
    ...wanted,
    ...(last?.files ?? []).map(({ path }) => path),
    ...(last?.leftovers ?? []).map(({ path }) => path),
  ]);

/** A file that rules do not take, and why, as what the receiver does: “takes no JPEG”. */
export type NotTaken = { path: string; why: string };

/** What of a delivery a receiver takes: of what is meant for it, what its rules take by what is known of the written files. */
export function takenOf(
  whole: Receipt,
  { rules, takes }: { rules: IntakeRules | null; takes: Takes },
  factsOf: (path: string) => WrittenFacts | undefined,
  specOf: (outputId: string) => string | undefined,
): { wanted: Receipt; refused: NotTaken[] } {
  const refused: NotTaken[] = [];
  const isMeant = meantFor(takes);
  const files = whole.files.filter((file) => {
    if (!isMeant(file.piece, specOf(file.output))) return false;
    const [first] = rules ? refusals(rules, asWritten(file, factsOf(file.path))) : [];
    if (first) refused.push({ path: file.path, why: first.words });
    return !first;
  });
  return { wanted: { ...whole, files }, refused };
}

/** What a receiver takes of a delivery, held against its folder. */
export type Held = {
  wanted: Receipt;
  refused: readonly NotTaken[];
  /** Whether the delivery is of some files, and says nothing of the others. */
  some: boolean;
  now: FolderNow;
  steps: FolderSteps;
};

/**
 * Refuses a folder that another project writes, by its receipt: two that take turns would each take the other's files
 * for what is left over from before.
 */
export function ofNoOther({ last }: FolderNow, project: Receipt['project']): void {
  const other = last?.project;
  if (!other || other.id === project.id) return;
  // Until version 0.1 every source of the command line had this id.
  if (other.id !== 'source' || other.name !== project.name)
    refuse('folder.other', `another project, “${other.name}”, writes to this folder`, {
      accepted: `a folder of its own, or one without ${RECEIPT_NAME}`,
    });
}

/** What a receiver takes of a delivery, against what lies there. Throws a `Refusal` where that is another project's. */
export function heldAgainst(
  now: FolderNow,
  taken: { wanted: Receipt; refused: readonly NotTaken[] },
  some: boolean,
): Held {
  ofNoOther(now, taken.wanted.project);
  const steps = folderSteps(now.there, now.last, taken.wanted.files, { some, begun: now.begun });
  for (const path of some ? [] : (now.disowned ?? []))
    if (now.there.has(path)) steps.foreign.push({ path, wanted: false });
  if (now.otherReceipt) steps.foreign.push({ path: RECEIPT_NAME, wanted: true });
  return { ...taken, some, now, steps };
}

/** How a writing ended, in numbers. */
export type Standing = {
  delivery: { id: string; number: number };
  /** ISO 8601. */
  at: string;
  written: number;
  removed: number;
  /** What was not done: leftovers that stay, files of others that were not replaced, files that rules do not take. */
  leftovers: number;
  foreign: number;
  refused: number;
};

/** What to write, to take away and to say in the receipt, by what somebody allowed; and how the folder stands then. */
export function writingFor(
  { wanted, refused, some, now, steps }: Held,
  allowed: Allowed,
  at: string,
): { write: ReceiptFile[]; remove: string[]; receipt: Receipt; inStep: boolean; standing: Standing } {
  const { write, remove } = allowedSteps(steps, wanted.files, allowed);
  const { files: _files, leftovers: _leftovers, ...head } = wanted;
  const { id, number } = wanted.delivery;
  const inTheWay = steps.foreign.filter((each) => each.wanted).length;
  return {
    write,
    remove,
    receipt: receiptAfter(head, now.last, wanted.files, steps, allowed, some),
    // Where all is as it should be, not a byte is written.
    inStep: write.length + remove.length === 0 && now.last?.delivery?.id === id,
    standing: {
      delivery: { id, number },
      at,
      written: write.length,
      removed: remove.length,
      leftovers: steps.leftovers.length - remove.length,
      foreign: steps.foreign.length - (allowed.replaceForeign ? inTheWay : 0),
      refused: refused.length,
    },
  };
}

const MOST_NAMED = 200;
const named = (paths: readonly string[]) => ({ count: paths.length, first: paths.slice(0, MOST_NAMED) });

/** Steps as they are shown before they are done: how many of each kind, the first of them by name. */
export type StepsInShort = ReturnType<typeof stepsInShort>;
export function stepsInShort({ steps, refused }: Pick<Held, 'steps' | 'refused'>) {
  const foreign = (wanted: boolean) =>
    named(steps.foreign.flatMap((each) => (each.wanted === wanted ? [each.path] : [])));
  return {
    fresh: named(steps.fresh.map(({ path }) => path)),
    changed: named(steps.changed.map(({ path }) => path)),
    same: steps.same.length,
    leftovers: named(steps.leftovers),
    foreign: foreign(true),
    leftAlone: foreign(false),
    refused: { count: refused.length, first: refused.slice(0, MOST_NAMED) },
  };
}
