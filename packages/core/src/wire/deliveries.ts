import * as z from 'zod';
import { recordId } from '../document/records';
import { FORMAT_LIST } from '../formats';
import { PIECE_PARTS } from '../taking-back/changed-since';

const count = z.number().int().min(0);
const format = z.enum(FORMAT_LIST);

export const deliveryAnswer = z.strictObject({
  id: recordId,
  projectId: recordId,
  number: count,
  /** What somebody calls it and says of it; empty while nobody did. */
  title: z.string(),
  note: z.string(),
  state: z.enum(['running', 'done', 'stopped']),
  version: count,
  /** Whether it was of all files, or of some that were chosen. */
  whole: z.boolean(),
  /** Whether an edit made it, for receivers that follow the project; the next such one takes its place. */
  byEdit: z.boolean(),
  total: count,
  made: count,
  failed: count,
  bytes: count,
  createdAt: z.iso.datetime(),
  finishedAt: z.iso.datetime().nullable(),
});
export type Delivery = z.infer<typeof deliveryAnswer>;
export const deliveryFields = z.strictObject({
  title: z.string().trim().max(200).optional(),
  note: z.string().trim().max(5000).optional(),
});
export const deliveriesAnswer = z.strictObject({ deliveries: z.array(deliveryAnswer) });

/** What decoding a finished file found. */
const measured = z.object({
  widthPx: z.number(),
  heightPx: z.number(),
  bytes: count,
  alpha: z.boolean(),
  dpi: z.number().nullable(),
  colourType: z.string(),
  /** Of a file of several. */
  pages: count.optional(),
});
export type DeliveredMeasure = z.infer<typeof measured>;

const deliveredFile = z.strictObject({
  position: count,
  path: z.string(),
  pieceId: recordId,
  outputId: recordId,
  format,
  widthPx: z.number(),
  heightPx: z.number(),
  key: z.string(),
  state: z.enum(['waiting', 'made', 'failed']),
  error: z.string().nullable(),
  measured: measured.nullable(),
});
export type DeliveredFile = z.infer<typeof deliveredFile>;

const fileChange = z.enum(['same', 'changed', 'renamed', 'new', 'gone']);
export type FileChange = z.infer<typeof fileChange>;

/** One delivery, each of its files compared with the last of the same path. */
export const deliveryDetail = deliveryAnswer.extend({
  before: z.strictObject({ id: recordId, number: count }).optional(),
  counts: z.record(fileChange, count),
  files: z.array(
    z.strictObject({
      path: z.string(),
      change: fileChange,
      now: deliveredFile.optional(),
      /** The last file of that path, or of that piece and output under another one, with the delivery that held it. */
      before: deliveredFile.extend({ delivery: z.strictObject({ id: recordId, number: count }) }).optional(),
    }),
  ),
});
export type DeliveryDetail = z.infer<typeof deliveryDetail>;

/** Deliveries in numbers, the oldest first. */
export const figuresAnswer = z.strictObject({
  deliveries: z.array(
    z.strictObject({
      id: recordId,
      number: count,
      title: z.string(),
      at: z.iso.datetime(),
      /** How long making it took, where it came to its end. */
      seconds: z.number().min(0).nullable(),
      formats: z.array(z.strictObject({ format, files: count, bytes: count })),
    }),
  ),
});
export type DeliveryFigures = z.infer<typeof figuresAnswer>['deliveries'][number];

export const deliveryRowsAnswer = z.strictObject({ rows: z.array(deliveredFile) });
export const deliveryPathsAnswer = z.strictObject({ number: count, paths: z.array(z.string()) });
export const freesAnswer = z.strictObject({ bytes: count });

/** What is sent as it happens (server-sent events). */
export type ProjectEvent =
  /** `label` where nobody's hand made it, and a window can undo it: what a linked source brought in. */
  | { type: 'edited'; version: number; editId: string; label?: string }
  | { type: 'renamed'; name: string }
  /** A delivery is called otherwise, or something else is said of it. */
  | { type: 'described'; id: string }
  /** A receiver was written to, or is another. */
  | { type: 'receivers' }
  /** The linked source was read, or is another. */
  | { type: 'source' }
  | {
      type: 'delivery';
      id: string;
      number: number;
      state: Delivery['state'];
      total: number;
      made: number;
      failed: number;
      /** Nobody asked for it: an edit made it, for receivers that follow. */
      byEdit: boolean;
      /** A file just made. */
      path?: string;
      /** Files whose state changed. */
      positions?: number[];
    };

/** What of the project is not as it was when a delivery was made, piece by piece. */
export const sinceAnswer = z.strictObject({
  version: count,
  pieces: z.array(
    z.strictObject({
      id: recordId,
      kind: z.enum(['artboard', 'slice', 'edition']),
      name: z.string(),
      was: z.string().optional(),
      state: z.enum(['changed', 'gone', 'new']),
      parts: z.array(z.enum(PIECE_PARTS)),
    }),
  ),
});
export const takeBackFields = z.strictObject({ pieceIds: z.array(recordId).min(1).max(20_000) });
