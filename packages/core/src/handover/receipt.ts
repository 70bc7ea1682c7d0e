import { z } from 'zod';
import { recordId } from '../document/records';
import { FORMAT_LIST } from '../formats';

/** The receipt beside the files of a folder. */
export const RECEIPT_NAME = 'delivery.json';
export const RECEIPT_VERSION = 1;
const MOST_FILES = 200_000;

/** What a writing is about to write, a line of JSON for each file, kept until its receipt is there. */
export const BEGUN_NAME = '.delivery-begun.json';
/** The end of names that files have until they are whole. */
export const PART_SUFFIX = '.delivery-part';

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

const begunFile = writtenFile.pick({ path: true, sha256: true });

export const printBegun = (files: readonly z.infer<typeof begunFile>[]): string =>
  files.map(({ path, sha256: hash }) => `${JSON.stringify({ path, sha256: hash })}\n`).join('');

/** SHA-256 by path of what a writing was about to write; lines that are none, such as a torn last one, are passed over. */
export function readBegun(text: string): ReadonlyMap<string, string> {
  const begun = new Map<string, string>();
  for (const line of text.split('\n')) {
    try {
      const file = begunFile.safeParse(JSON.parse(line)).data;
      if (file) begun.set(file.path, file.sha256);
    } catch {
      // Not a line that was written whole.
    }
  }
  return begun;
}

/** A receipt as it is written: one file a line, so that a difference of two can be read. */
export function printReceipt({ files, leftovers, ...head }: Receipt): string {
  const lines = (list: readonly object[]) =>
    list.length === 0 ? '[]' : `[\n${list.map((each) => `    ${JSON.stringify(each)}`).join(',\n')}\n  ]`;
  const said = Object.entries(head).map(([name, value]) => `  ${JSON.stringify(name)}: ${JSON.stringify(value)}`);
  return `{\n${[...said, `  "files": ${lines(files)}`, `  "leftovers": ${lines(leftovers)}`].join(',\n')}\n}\n`;
}
