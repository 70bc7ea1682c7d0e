import * as z from 'zod';

import { groupBy } from '../basics/group-by';
import { inputWords } from '../basics/input-words';
import { count, few } from '../basics/words';
import { FORMAT_LIST, FORMATS, type Format } from '../formats';
import { fitsAny } from './path-patterns';

export const RULES_VERSION = 1;
const MOST_LISTED = 200;

const side = z.number().int().min(1).max(100_000);
const box = z.strictObject({ widthPx: side, heightPx: side });

/** What a receiver takes, as an open file of JSON. What is not said is free. */
export const intakeRules = z.strictObject({
  version: z.literal(RULES_VERSION),
  name: z.string().trim().min(1).max(100),
  names: z
    .strictObject({
      /** Letters of names and folders. */
      letters: z.enum(['any', 'small', 'capital']).default('any'),
      /** Whether names hold letters of the English alphabet, digits, `.`, `_`, `-` and `@` alone. */
      plain: z.boolean().default(false),
      /** One of these fits the whole path; `*` stands for anything but `/`, `**` for anything, `?` for one character. */
      patterns: z.array(z.string().min(1).max(300)).max(MOST_LISTED).default([]),
      longest: z.number().int().min(1).max(1000).nullable().default(null),
    })
    .prefault({}),
  /** Folders one in the other that a path may have at the most; null for any. */
  folders: z.number().int().min(0).max(20).nullable().default(null),
  /** None listed: any format. */
  formats: z.array(z.enum(FORMAT_LIST)).max(FORMAT_LIST.length).default([]),
  /** Of files of pixels. */
  pixels: z
    .strictObject({
      /** None listed: any size. */
      sizes: z.array(box).max(MOST_LISTED).default([]),
      square: z.boolean().default(false),
      multipleOf: side.nullable().default(null),
      alpha: z.enum(['any', 'refused', 'required']).default('any'),
      /** Whether colours may stand in a palette. */
      palette: z.boolean().default(true),
    })
    .prefault({}),
  largestBytes: z.number().int().min(1).max(1_000_000_000).nullable().default(null),
  /** Each piece has files of pixels in all of these sizes, counted by how large it was drawn; none listed: no matter. */
  complete: z.array(z.number().min(0.01).max(100)).max(20).default([]),
});
export type IntakeRules = z.infer<typeof intakeRules>;

/** A file as far as it is known: as it is planned, or as it was written and measured. */
export type RuledFile = {
  path: string;
  format: Format;
  widthPx: number;
  heightPx: number;
  /** Unknown until it was made. */
  bytes?: number;
  alpha?: boolean;
  palette?: boolean;
};

/** What measuring a written file found, as far as rules look at it. */
export type WrittenFacts = { widthPx: number; heightPx: number; bytes: number; alpha: boolean; colourType: string };

/** A file as it was planned, with what is known of it since it was written. */
export const asWritten = (
  { path, format, widthPx, heightPx }: Pick<RuledFile, 'path' | 'format' | 'widthPx' | 'heightPx'>,
  facts?: WrittenFacts,
): RuledFile => ({
  path,
  format,
  widthPx: facts?.widthPx ?? widthPx,
  heightPx: facts?.heightPx ?? heightPx,
  bytes: facts?.bytes,
  alpha: facts?.alpha,
  palette: facts && facts.colourType === 'palette',
});

/** How a rule that is broken can be mended where files are planned. */
export type Mendable = 'small' | 'capital' | null;
export type Refused = { words: string; mend: Mendable };

const PLAIN = /^[A-Za-z0-9._@/-]*$/;

const kilobytes = (bytes: number): string =>
  bytes < 1_000_000
    ? `${(bytes / 1000).toLocaleString('en', { maximumFractionDigits: 1 })} KB`
    : `${(bytes / 1_000_000).toLocaleString('en', { maximumFractionDigits: 1 })} MB`;
const listed = (words: readonly string[]): string => few(words, 4);

/** Why a file is not taken, each reason as what the receiver does: “takes no JPEG”. Empty when it is taken. */
export function refusals(rules: IntakeRules, file: RuledFile): Refused[] {
  const refused: Refused[] = [];
  const say = (words: string, mend: Mendable = null) => refused.push({ words, mend });
  const { names, pixels } = rules;
  const { path, format } = file;
  const folders = path.split('/').length - 1;
  // What a format's own ending says is no matter of names.
  const stem = path.replace(/\.[^./]*$/, '');
  if (names.letters === 'small' && stem !== stem.toLowerCase()) say('takes names in small letters', 'small');
  if (names.letters === 'capital' && stem !== stem.toUpperCase()) say('takes names in capital letters', 'capital');
  if (names.plain && !PLAIN.test(path)) say('takes names of plain letters, digits, and . _ - @');
  if (names.longest !== null && path.length > names.longest)
    say(`takes paths of up to ${count(names.longest, 'letter')}`);
  if (names.patterns.length > 0 && !fitsAny(names.patterns, path)) say(`takes names like ${listed(names.patterns)}`);
  if (rules.folders !== null && folders > rules.folders)
    say(rules.folders === 0 ? 'takes no folders' : `takes folders up to ${rules.folders} deep`);
  if (rules.formats.length > 0 && !rules.formats.includes(format))
    say(`takes ${listed(rules.formats.map((each) => FORMATS[each].title))}, no ${FORMATS[format].title}`);
  const heavy = file.bytes === undefined ? null : tooHeavy(rules, file.bytes);
  if (heavy) say(heavy);
  if (!FORMATS[format].raster) return refused;
  const { widthPx, heightPx } = file;
  if (pixels.sizes.length > 0 && !pixels.sizes.some((each) => each.widthPx === widthPx && each.heightPx === heightPx))
    say(
      `takes ${listed(pixels.sizes.map((each) => `${each.widthPx} × ${each.heightPx}`))}, this is ${widthPx} × ${heightPx}`,
    );
  if (pixels.square && widthPx !== heightPx) say(`takes squares, this is ${widthPx} × ${heightPx}`);
  const { multipleOf } = pixels;
  if (multipleOf !== null && (widthPx % multipleOf !== 0 || heightPx % multipleOf !== 0))
    say(`takes sides that are multiples of ${multipleOf} px, this is ${widthPx} × ${heightPx}`);
  if (pixels.alpha === 'refused' && file.alpha === true) say('takes nothing see-through');
  if (pixels.alpha === 'required' && file.alpha === false) say('takes only what is see-through');
  if (!pixels.palette && file.palette === true) say('takes no palettes');
  return refused;
}

/** In words, when a file weighs more than is taken. */
export const tooHeavy = ({ largestBytes }: IntakeRules, bytes: number): string | null =>
  largestBytes !== null && bytes > largestBytes
    ? `takes files of up to ${kilobytes(largestBytes)}, this is ${kilobytes(bytes)}`
    : null;

/** Sizes that a piece lacks of those that have to be complete, each by how large it is to what was drawn. */
export function missingSizes({ complete }: IntakeRules, scales: Iterable<number>): number[] {
  const there = [...scales];
  return complete.filter((wanted) => !there.some((scale) => Math.abs(scale - wanted) < 1e-3 * wanted));
}

/** For each piece of some planned files the sizes that it lacks, where it has any file of pixels at all. */
export function incompletePieces(
  rules: IntakeRules,
  files: readonly { pieceId: string; format: Format; scale: number }[],
): { pieceId: string; missing: number[] }[] {
  if (rules.complete.length === 0) return [];
  const raster = files.filter(({ format }) => FORMATS[format].raster);
  return [...groupBy(raster, ({ pieceId }) => pieceId)].flatMap(([pieceId, own]) => {
    const missing = missingSizes(
      rules,
      own.map(({ scale }) => scale),
    );
    return missing.length > 0 ? [{ pieceId, missing }] : [];
  });
}

/** Reads rules from a file; in words what is wrong with them. */
export function readRules(text: string): IntakeRules | string {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return 'this is no JSON';
  }
  const read = intakeRules.safeParse(json);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  return `${issue.path.join('.') || 'the rules'}: ${inputWords(issue)}`;
}

const rules = (fields: z.input<typeof intakeRules>): IntakeRules => intakeRules.parse(fields);

/** Rules as kinds of receivers usually have them, to begin from. */
export const READY_RULES: readonly IntakeRules[] = [
  rules({
    version: 1,
    name: 'App build',
    names: { letters: 'small', plain: true },
    formats: ['svg', 'png'],
    complete: [1, 2, 3],
  }),
  rules({
    version: 1,
    name: 'Web page',
    names: { letters: 'small', plain: true },
    formats: ['svg', 'png', 'jpeg'],
    largestBytes: 200_000,
  }),
  rules({
    version: 1,
    name: 'Store icon',
    folders: 0,
    formats: ['png'],
    pixels: {
      square: true,
      sizes: [
        { widthPx: 512, heightPx: 512 },
        { widthPx: 1024, heightPx: 1024 },
      ],
      alpha: 'refused',
    },
    largestBytes: 1_000_000,
  }),
  rules({ version: 1, name: 'Print shop', formats: ['pdf'], names: { plain: true, longest: 100 } }),
  rules({
    version: 1,
    name: 'Social picture',
    formats: ['png', 'jpeg'],
    pixels: {
      sizes: [
        { widthPx: 1080, heightPx: 1080 },
        { widthPx: 1200, heightPx: 630 },
        { widthPx: 1500, heightPx: 500 },
      ],
      alpha: 'refused',
    },
    largestBytes: 5_000_000,
  }),
];
