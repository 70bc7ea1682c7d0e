import * as z from 'zod';
import { recordId } from '../document/records';
import { intakeRules } from '../handover/intake-rules';
import { pathWithin } from '../handover/receipt';
import { takes } from '../handover/takes';

const count = z.number().int().min(0);
const name = z.string().trim().min(1).max(100);

/** A folder below one of the server's own: parts with slashes between, or none. */
const folder = z.union([z.literal(''), pathWithin]);

/** Headers that a request has by itself, or that say how it is carried: none of a person's business (RFC 9110 §7.6.1). */
const OWN_HEADERS =
  /^(host|content-.*|transfer-encoding|connection|keep-alive|expect|upgrade|te|trailer|via|proxy-.*)$/i;
const MOST_HEADERS = 20;

/** Headers that go with every request to an intake, such as a key. They are secrets: what the server has of them it tells nobody. */
export const intakeHeaders = z
  .record(
    z
      .string()
      .regex(/^[A-Za-z0-9!#$%&'*+.^_`|~-]{1,100}$/, 'a name of a header')
      .refine((header) => !OWN_HEADERS.test(header), 'a header that the request does not have by itself'),
    z.string().regex(/^[\x20-\x7e]{0,4000}$/, 'a value of plain letters'),
  )
  .refine((headers) => Object.keys(headers).length <= MOST_HEADERS, `up to ${MOST_HEADERS} headers`);

/** A folder of the server, or an intake: an address of those that the server may send to. */
export const newReceiver = z.union([
  z.object({ name, address: z.string().max(1000), headers: intakeHeaders.default({}) }),
  z.object({ name, root: z.string().max(1000), folder: folder.default('') }),
]);
export const receiverFields = z.object({
  name: name.optional(),
  on: z.boolean().optional(),
  removeLeftovers: z.boolean().optional(),
  replaceForeign: z.boolean().optional(),
  /** Whether it gets what changed a moment after each edit. */
  follows: z.boolean().optional(),
  takes: takes.optional(),
  /** What it takes; null for anything. */
  rules: intakeRules.nullable().optional(),
  /** Of an intake, in place of all that it had. */
  headers: intakeHeaders.optional(),
  /** Of an intake: whether it gets its files as one zip, in place of a request for each. */
  asZip: z.boolean().optional(),
});
export const writeOrder = z.object({
  removeLeftovers: z.boolean().default(false),
  replaceForeign: z.boolean().default(false),
});

/** How the last writing ended. */
const standing = z.strictObject({
  delivery: z.strictObject({ id: recordId, number: count }),
  at: z.iso.datetime(),
  written: count,
  removed: count,
  /** What was not done: leftovers that stay, files of others that were not replaced. */
  leftovers: count,
  foreign: count,
  /** Files that its rules do not take. */
  refused: count.default(0),
});

const receiverOfAnyKind = z.strictObject({
  id: recordId,
  name: z.string(),
  /** Whether every delivery of all files is written to it. */
  on: z.boolean(),
  removeLeftovers: z.boolean(),
  replaceForeign: z.boolean(),
  /** Whether it gets what changed a moment after each edit. */
  follows: z.boolean(),
  takes,
  rules: intakeRules.nullable(),
  standing: standing.nullable(),
  /** In words, when the last writing did not come to its end. */
  trouble: z.string().nullable(),
  /** The hand-over that is on its way: of which delivery, and how many files have come; `of` is null until it is begun. */
  onItsWay: z.strictObject({ number: count, done: count, of: count.nullable() }).nullable(),
});
export const receiverAnswer = z.discriminatedUnion('kind', [
  receiverOfAnyKind.extend({ kind: z.literal('folder'), root: z.string(), folder: z.string() }),
  /** Of its headers the names alone. */
  receiverOfAnyKind.extend({
    kind: z.literal('intake'),
    address: z.string(),
    headerNames: z.array(z.string()),
    asZip: z.boolean(),
  }),
]);
export type Receiver = z.infer<typeof receiverAnswer>;
export const receiversAnswer = z.strictObject({
  /** Names of the server's folders that may be written to. */
  roots: z.array(z.string()),
  /** Addresses that may be sent to, and all below them. */
  intakes: z.array(z.string()),
  receivers: z.array(receiverAnswer),
});
export type Receivers = z.infer<typeof receiversAnswer>;

/** How many paths of a kind there are, the first of them by name. */
const paths = z.strictObject({ count, first: z.array(z.string()) });
export const stepsAnswer = z.strictObject({
  delivery: z.strictObject({ id: recordId, number: count }),
  fresh: paths,
  changed: paths,
  same: count,
  leftovers: paths,
  /** Of others: in the way of a file of the delivery. */
  foreign: paths,
  /** Of others: written by an earlier delivery, changed since, and not made any more; left alone. */
  leftAlone: paths,
  /** What its rules do not take, the first of them with the reason. */
  refused: z.strictObject({ count, first: z.array(z.strictObject({ path: z.string(), why: z.string() })) }),
});
export type ReceiverSteps = z.infer<typeof stepsAnswer>;

/** What intakes answered for the files that a delivery sent them: how many each took, and what it did not take and why. */
export const intakeAnswers = z.strictObject({
  receivers: z.array(
    z.strictObject({
      id: recordId,
      name: z.string(),
      taken: count,
      refused: z.array(z.strictObject({ path: z.string(), why: z.string() })),
    }),
  ),
});
export type IntakeAnswers = z.infer<typeof intakeAnswers>;
