import * as z from 'zod';
import { recordId } from '../document/records';
import { FORMAT_LIST } from '../formats';

/** The receipt beside the files of a folder. */
export const RECEIPT_NAME = 'delivery.json';
export const RECEIPT_VERSION = 1;
/** The longest receipt that is read, in bytes. */
export const LONGEST_RECEIPT = 100 * 1_048_576;
const MOST_FILES = 200_000;

/**
 * What a writing is about to write is kept beside the files until their receipt is there, in a file that is named after
 * the writing: a line of JSON for each file. Files that are not whole yet are named after it, too, so that nobody else's
 * file is ever taken for one. `writing` are 32 random hexadecimal digits.
 */
export const begunName = (writing: string): string => `.delivery-${writing}.begun`;
/** The writing that a name says something was begun by, or null. */
export const writingOfBegun = (name: string): string | null =>
  /^\.delivery-([0-9a-f]{32})\.begun$/.exec(name)?.[1] ?? null;
/** The longest text of begun files that is read, in bytes. */
export const LONGEST_BEGUN = 64 * 1_048_576;

/** The name of a file of a writing until it is whole; `n` counts its files. */
export const partName = (writing: string, n: number): string => `.delivery-${writing}-${n}.part`;
/** The writing that a file is a part of, or null when its name is not that of a part. */
export const writingOfPart = (name: string): string | null =>
  /^\.delivery-([0-9a-f]{32})-\d+\.part$/.exec(name)?.[1] ?? null;

const sha256 = z.string().regex(/^[0-9a-f]{64}$/, 'a SHA-256 in hex');
/** A path within the folder: parts with slashes between, none of them empty or dots alone. */
export const pathWithin = z
  .string()
  .min(1)
  .max(1000)
  .refine(
    (path) => path.split('/').every((part) => part !== '' && part !== '.' && part !== '..') && !/[\\\0]/.test(path),
    'a path within the folder',
  );

/** What was written under a path, to tell it from what somebody put there since. */
const writtenFile = z.object({ path: pathWithin, bytes: z.number().int().min(0), sha256 });

export const receiptFile = writtenFile.extend({
  widthPx: z.number(),
  heightPx: z.number(),
  /** Of files of pixels. */
  dpi: z.number().nullable(),
  format: z.enum(FORMAT_LIST),
  /** Ids of the piece and the output that it was made of. */
  piece: recordId,
  output: recordId,
});
export type ReceiptFile = z.infer<typeof receiptFile>;

/** `delivery.json`: what a delivery wrote into a folder, against which the folder can be held at any time. */
export const receipt = z.object({
  version: z.literal(RECEIPT_VERSION),
  project: z.object({ id: recordId, name: z.string().max(300) }),
  delivery: z.object({ id: recordId, number: z.number().int().min(1), at: z.iso.datetime() }),
  files: z.array(receiptFile).max(MOST_FILES),
  /** Files of earlier deliveries that are no longer made and were left there. */
  leftovers: z.array(writtenFile).max(MOST_FILES),
});
export type Receipt = z.infer<typeof receipt>;

/** Reads a receipt; null when it is none, such as one that was edited by hand: then nothing there is known to be ours. */
export function readReceipt(text: string): Receipt | null {
  try {
    return receipt.safeParse(JSON.parse(text)).data ?? null;
  } catch {
    return null;
  }
}

/** SHA-256 and length of what a writing was about to write, by path. */
export type BegunFiles = ReadonlyMap<string, { sha256: string; bytes: number }>;
/** What writings that did not come to their end were about to write, and which these are: their parts may lie there. */
export type Begun = { files: BegunFiles; writings: readonly string[] };
export const NOTHING_BEGUN: Begun = { files: new Map(), writings: [] };

export const printBegun = (files: readonly Pick<ReceiptFile, 'path' | 'sha256' | 'bytes'>[]): string =>
  files.map(({ path, sha256: hash, bytes }) => `${JSON.stringify({ path, sha256: hash, bytes })}\n`).join('');

const BEGUN_FILE = /^\{"path":("(?:[^"\\]|\\.){1,6000}"),"sha256":"([0-9a-f]{64})","bytes":(\d{1,15})\}$/;
/** Lines that are read of a file of a stranger. */
const MOST_LINES = 2 * MOST_FILES;

/**
 * Reads what `printBegun` wrote. Lines of any other form, such as a torn last one, are skipped; the time is linear in
 * the length, whatever the text holds.
 */
export function readBegun(text: string): BegunFiles {
  const files = new Map<string, { sha256: string; bytes: number }>();
  let from = 0;
  for (let lines = 0; from < text.length && lines < MOST_LINES; lines++) {
    const end = text.indexOf('\n', from);
    const line = text.slice(from, end < 0 ? text.length : end);
    from = end < 0 ? text.length : end + 1;
    const [, said, hash, bytes] = BEGUN_FILE.exec(line) ?? [];
    const path = said && pathIn(said);
    if (path) files.set(path, { sha256: hash, bytes: Number(bytes) });
  }
  return files;
}

function pathIn(json: string): string | undefined {
  try {
    return pathWithin.safeParse(JSON.parse(json)).data;
  } catch {
    // An escape that JSON does not have.
    return undefined;
  }
}

/** A receipt as it is written: one file a line, so that a difference of two can be read. */
export function printReceipt({ files, leftovers, ...head }: Receipt): string {
  const lines = (list: readonly object[]) =>
    list.length === 0 ? '[]' : `[\n${list.map((each) => `    ${JSON.stringify(each)}`).join(',\n')}\n  ]`;
  const said = Object.entries(head).map(([name, value]) => `  ${JSON.stringify(name)}: ${JSON.stringify(value)}`);
  return `{\n${[...said, `  "files": ${lines(files)}`, `  "leftovers": ${lines(leftovers)}`].join(',\n')}\n}\n`;
}
