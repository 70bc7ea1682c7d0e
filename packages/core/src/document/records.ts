import * as z from 'zod';
import { outputSettings } from '../formats';
import { matrix } from '../geometry/matrix';
import { sizeRule } from '../geometry/sizes';
import { DEFINITIONS, DRAWN, INSIDE_DEFINITIONS } from '../profile/allow-list';
import { attributeTrouble, isPlainText } from '../profile/values';
import { isOrderKey } from './order';

/** Names that every JavaScript object answers to; as ids they would be found where nothing was put. */
const OBJECT_NAMES = new Set(Object.getOwnPropertyNames(Object.prototype));

/** Records carry ids that are XML names, so that a layer's id can be what `url(#…)` refers to. */
export const recordId = z
  .string()
  .regex(/^[A-Za-z_][A-Za-z0-9_-]{0,63}$/, 'an id of letters, digits, - and _')
  .refine((id) => !OBJECT_NAMES.has(id), 'an id that is not a word of the language');

/** Where layers without a parent are: the artwork, and what it refers to. */
export const ROOT = 'root';
export const DEFS = 'defs';
export const SETTINGS_ID = 'settings';
const RESERVED = new Set([ROOT, DEFS, SETTINGS_ID]);
/** The id of a record itself: none that means something else. */
const ownId = recordId.refine((id) => !RESERVED.has(id), 'an id that is not "root", "defs" or "settings"');

/** Fractional index: sorts by plain string comparison. */
const order = z.string().max(200).refine(isOrderKey, 'an order key such as "a0"');

/** Text that can be written into every file: no control characters, no halves of characters. */
const text = (most: number) => z.string().max(most).refine(isPlainText, 'text without control characters');

/** Where things may lie, in px from the origin; beyond it float steps show in files. */
export const COORDINATE_LIMIT = 1_000_000;
const coordinate = z.number().min(-COORDINATE_LIMIT).max(COORDINATE_LIMIT);
const extent = z.number().positive().max(COORDINATE_LIMIT);
const percent = z.number().min(0).max(100);

export const recordName = z
  .string()
  .trim()
  .min(1, 'a name of at least one character')
  .max(300)
  .refine(isPlainText, 'text without control characters');

/** `#rgb`, `#rrggbb` or with alpha (CSS Color 4 §5.2). */
export const hexColour = z
  .string()
  .regex(/^#([0-9a-f]{3}|[0-9a-f]{4}|[0-9a-f]{6}|[0-9a-f]{8})$/i, 'a colour like #0c6a53');

/** Letters of one layer of text, all its runs together; a page of a book has about 3,000. */
export const MAX_TEXT = 10_000;

/** Attributes of SVG (SVG 2) as the allow-list has them: names, and values taken apart. */
const attributes = z.record(z.string().max(60), z.string().max(4_000_000)).superRefine((attrs, context) => {
  for (const [name, value] of Object.entries(attrs)) {
    const message = attributeTrouble(name, value);
    if (message) context.addIssue({ code: 'custom', message, path: [name] });
  }
});

/** One stretch of text with its own attributes; runs follow each other as `tspan`s do. */
export const textRun = z.object({ text: text(MAX_TEXT), attrs: attributes });
export type TextRun = z.infer<typeof textRun>;

/** What a layer keeps its distance to when its artboard is resized; `both` stretches it. */
export const layerHold = z.object({
  x: z.enum(['left', 'centre', 'right', 'both']).optional(),
  y: z.enum(['top', 'centre', 'bottom', 'both']).optional(),
});
export type LayerHold = z.infer<typeof layerHold>;

export const layerRecord = z.object({
  id: ownId,
  kind: z.literal('layer'),
  /** Another layer, `root` for the artwork, `defs` for paint servers, clips, masks and filters. */
  parentId: recordId,
  order,
  tag: z.enum([...DRAWN, ...DEFINITIONS, ...INSIDE_DEFINITIONS]),
  name: text(300).default(''),
  /** What its drawing calls it, where somebody calls it otherwise here: the drawing's next version is known by that. */
  drawnName: text(300).optional(),
  shown: z.boolean().default(true),
  locked: z.boolean().default(false),
  benchOnly: z.boolean().default(false),
  transform: matrix.optional(),
  opacity: z.number().min(0).max(1).default(1),
  attrs: attributes.default({}),
  text: z
    .array(textRun)
    .max(MAX_TEXT + 1)
    // An empty line is a run of one space.
    .refine(
      (runs) => runs.reduce((sum, run) => sum + run.text.length, 0) <= MAX_TEXT + runs.length,
      `text of up to ${MAX_TEXT.toLocaleString('en')} letters`,
    )
    .optional(),
  hold: layerHold.optional(),
});
export type Layer = z.infer<typeof layerRecord>;

const rect = { x: coordinate, y: coordinate, width: extent, height: extent };

/** What every piece can say of its files. */
const becomesFiles = {
  on: z.boolean().default(true),
  specIds: z.array(recordId).max(50).default([]),
  /** Outputs of those specs that this piece does not make. */
  offOutputIds: z.array(recordId).max(500).default([]),
};

const ofOneColour = [
  z.object({ kind: z.literal('asDrawn') }),
  z.object({ kind: z.literal('white') }),
  z.object({ kind: z.literal('black') }),
  z.object({ kind: z.literal('grey') }),
  z.object({ kind: z.literal('tint'), colour: hexColour }),
  z.object({
    kind: z.literal('map'),
    colours: z.array(z.object({ from: hexColour, to: z.union([hexColour, z.literal('none')]) })).max(500),
  }),
] as const;
/** What becomes of each colour by itself. */
export const colourRule = z.discriminatedUnion('kind', [...ofOneColour]);

/** One ink that keeps parts apart: some colours are holes in it, others have a gap around them. */
export const inkRule = z.object({
  kind: z.literal('ink'),
  colour: hexColour,
  /** Colours of the source that are knocked out: what lies under them is open there. */
  out: z.array(hexColour).max(500).default([]),
  /** Colours of the source that are set apart: inked, with a gap cut into what lies under them. */
  apart: z.array(hexColour).max(500).default([]),
  /** How wide the gap is, in px of the source. */
  gap: z.number().min(0).max(1000).default(0),
});
export type InkRule = z.infer<typeof inkRule>;

export const recolourRule = z.discriminatedUnion('kind', [...ofOneColour, inkRule]);
export type RecolourRule = z.infer<typeof recolourRule>;

/** How an emblem and a wordmark stand together. Every length is a share of the measured height: that of the wordmark's artboard. */
export const lockupRule = z.object({
  arrangement: z.enum(['wide', 'stacked', 'emblem', 'wordmark']),
  /** The artboard of the wordmark; the emblem's is the one that is followed. */
  wordmarkId: recordId,
  gap: z.number().min(0).max(10).default(0.5),
  /** Room on all sides that nothing else may enter. */
  clearSpace: z.number().min(0).max(10).default(0.5),
  emblemHeight: z.number().min(0.05).max(50).default(1.6),
  /** Across the direction in which they stand: top or left, middle, bottom or right. */
  align: z.enum(['start', 'centre', 'end']).default('centre'),
  /** Draws the clear space and its measures over the artwork, for a guide sheet. */
  guide: z.boolean().default(false),
});
export type LockupRule = z.infer<typeof lockupRule>;

/** The least width at which a mark is shown: on screens in px, in print in mm. */
export const smallestWidth = z.object({ px: extent.optional(), mm: extent.optional() });
export type SmallestWidth = z.infer<typeof smallestWidth>;

export const artboardRecord = z.object({
  id: ownId,
  kind: z.literal('artboard'),
  order,
  name: recordName,
  ...rect,
  background: hexColour.nullable().default(null),
  /** `shown`: the background is to be looked at on, and in files only where an output asks for it. Else it is in all. */
  backgroundUse: z.enum(['painted', 'shown']).optional(),
  ...becomesFiles,
  /** Set on a variant: it shows the artwork of another artboard, recoloured; with `lockup`, set beside a wordmark. */
  follows: z.object({ artboardId: recordId, rule: recolourRule, lockup: lockupRule.optional() }).optional(),
  smallest: smallestWidth.optional(),
  /** Set on what a piece rule made: which rule, of which layer, and how it made it, by which it is known whether a hand changed it. */
  byRule: z
    .object({ ruleId: recordId, layerId: recordId, name: recordName, ...rect, specIds: z.array(recordId).max(50) })
    .optional(),
});
export type Artboard = z.infer<typeof artboardRecord>;

export const sliceSource = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('region'), ...rect }),
  z.object({ kind: z.literal('layer'), layerId: recordId }),
  z.object({ kind: z.literal('artboards'), artboardIds: z.array(recordId).min(1).max(2000) }),
  /** All there is: to the edges of its artwork, or to the outer edges of all artboards. */
  z.object({ kind: z.literal('everything'), to: z.enum(['artwork', 'artboards']).default('artwork') }),
]);

export const sliceShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('rectangle') }),
  z.object({ kind: z.literal('rounded'), radius: z.number().min(0).max(COORDINATE_LIMIT) }),
  z.object({ kind: z.literal('ellipse') }),
  z.object({ kind: z.literal('outline'), layerId: recordId }),
]);

export const sliceRecord = z.object({
  id: ownId,
  kind: z.literal('slice'),
  order,
  name: recordName,
  source: sliceSource,
  margin: z.number().min(-10_000).max(10_000).default(0),
  /** Grown about its middle until it is as wide as high. Of no account for a slice of a region. */
  square: z.boolean().optional(),
  /** Grown outward to whole px. Of no account for a slice of a region. */
  wholePx: z.boolean().optional(),
  shape: sliceShape.default({ kind: 'rectangle' }),
  /** Of a tile: the piece it was cut from, and its place among the tiles, from 0. */
  tile: z
    .object({
      of: recordId,
      row: z.number().int().min(0).max(1_000_000),
      column: z.number().int().min(0).max(1_000_000),
    })
    .optional(),
  /** Set on what a piece rule made: which rule, and how it made it, by which it is known whether a hand changed it. */
  byRule: z
    .object({
      ruleId: recordId,
      name: recordName,
      margin: z.number(),
      square: z.boolean().optional(),
      wholePx: z.boolean().optional(),
      specIds: z.array(recordId).max(50),
    })
    .optional(),
  ...becomesFiles,
});
export type Slice = z.infer<typeof sliceRecord>;

export const layerOverride = z.object({
  shown: z.boolean().optional(),
  /** In px of the Bench, added to where the base has the layer. */
  offset: z.object({ x: coordinate, y: coordinate }).optional(),
  tint: hexColour.optional(),
  opacity: z.number().min(0).max(1).optional(),
  /** Words of a text layer, lines apart by line feeds. */
  words: text(MAX_TEXT).optional(),
  /** What the layer was called that this is for, once it went when its artwork was replaced. */
  was: text(300).optional(),
});
export type LayerOverride = z.infer<typeof layerOverride>;

export const editionRecord = z.object({
  id: ownId,
  kind: z.literal('edition'),
  artboardId: recordId,
  order,
  name: recordName,
  overrides: z.record(recordId, layerOverride).default({}),
  ...becomesFiles,
});
export type Edition = z.infer<typeof editionRecord>;

export const specRecord = z.object({
  id: ownId,
  kind: z.literal('spec'),
  order,
  name: recordName,
  about: text(500).default(''),
  /** The scale the artwork was drawn at; every factor of the spec is divided by it. */
  drawnAtScale: z.number().min(0.25).max(64).default(1),
  /** Letters of its file names, where they are not the project's. */
  letterCase: z.enum(['project', 'asTyped', 'lower', 'kebab', 'snake']).default('project'),
});
export type Spec = z.infer<typeof specRecord>;

export const outputRecord = z.object({
  id: ownId,
  kind: z.literal('output'),
  specId: recordId,
  order,
  on: z.boolean().default(true),
  size: sizeRule,
  /** `piece`: what the artboard paints; `ground`: also what it is only looked at on; `none`: transparent; or a colour. */
  background: z.union([z.enum(['piece', 'ground', 'none']), hexColour]).default('piece'),
  /** `piece`: with the clear space that a lockup has around it; `none`: without it. */
  room: z.enum(['piece', 'none']).default('piece'),
  /** Whether there is empty room at two sides, so that a file is as wide as it is high. */
  square: z.boolean().default(false),
  suffix: text(100).default(''),
  folder: text(300).default(''),
  recolour: colourRule.default({ kind: 'asDrawn' }),
  settings: outputSettings,
});
export type Output = z.infer<typeof outputRecord>;

/** A finding that somebody looked at and found all right, with the reason; it holds while the finding says the same. */
export const acceptanceRecord = z.object({
  id: ownId,
  kind: z.literal('acceptance'),
  check: z.string().max(60),
  pieceId: z.string().max(64),
  outputId: recordId.optional(),
  message: text(500),
  reason: z.string().trim().min(1).max(300).refine(isPlainText, 'text without control characters'),
});
export type Acceptance = z.infer<typeof acceptanceRecord>;

/** A font that was added to the project; its bytes are a blob. */
export const fontRecord = z.object({
  id: ownId,
  kind: z.literal('font'),
  order,
  family: z.string().trim().min(1).max(100).refine(isPlainText, 'text without control characters'),
  /** 1 to 1000 (CSS Fonts 4 §2.2). */
  weight: z.number().int().min(1).max(1000),
  italic: z.boolean(),
  /** SHA-256 of the file, in hex. */
  hash: z.string().regex(/^[0-9a-f]{64}$/),
});
export type FontRecord = z.infer<typeof fontRecord>;

/** What becomes a piece by itself: every group of a drawing, or what has a name like a pattern; as a slice or an artboard. */
export const pieceRule = z.object({
  id: recordId,
  match: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('groups') }),
    /** `*` any letters, `?` one; letter case does not count. */
    z.object({ kind: z.literal('named'), like: text(200).min(1) }),
  ]),
  /** A slice follows its layer at every edit; an artboard stands where the layer was when the rule was last carried out. */
  becomes: z.enum(['slice', 'artboard']).optional(),
  /** Around what is drawn, in px. */
  margin: z.number().min(-10_000).max(10_000).default(0),
  square: z.boolean().optional(),
  /** Of slices; artboards by rule are always on whole px. */
  wholePx: z.boolean().optional(),
  specIds: z.array(recordId).max(50).default([]),
});
export type PieceRule = z.infer<typeof pieceRule>;
export const MAX_PIECE_RULES = 50;

/** What is known of a colour beside its sRGB value: what it is called, and what print needs, as it was decided, never converted. */
export const brandColour = z.object({
  colour: z.string().regex(/^#[0-9a-f]{6}$/, 'a colour like #0c6a53, in lower case'),
  name: text(60).min(1).optional(),
  /** Percent of cyan, magenta, yellow and black. */
  cmyk: z.tuple([percent, percent, percent, percent], 'four numbers of 0 to 100').optional(),
  /** The name of a spot colour (ISO 32000-1 §8.6.6.4), as the printer knows it. */
  spot: text(80).min(1).optional(),
});
export type BrandColour = z.infer<typeof brandColour>;
export const MAX_BRAND_COLOURS = 200;

export const settingsRecord = z.object({
  id: z.literal(SETTINGS_ID),
  kind: z.literal('settings'),
  /** Name template, see `plan/names.ts` for its words. */
  naming: text(300).min(1).default('{piece}{suffix}'),
  /** Template of the folders above each output's own. */
  folders: text(300).default(''),
  letterCase: z.enum(['asTyped', 'lower', 'kebab', 'snake']).default('asTyped'),
  numberDigits: z.number().int().min(1).max(6).default(2),
  defaultSpecId: recordId.nullable().default(null),
  gridPx: z.number().min(1).max(1000).default(1),
  /** What becomes a piece by itself. Not there in projects from before there were such rules. */
  pieceRules: z.array(pieceRule).max(MAX_PIECE_RULES).optional(),
  /** Colours of which more is known than their sRGB value, in the order in which it was said. */
  colours: z.array(brandColour).max(MAX_BRAND_COLOURS).optional(),
});
export type Settings = z.infer<typeof settingsRecord>;

export const anyRecord = z.discriminatedUnion('kind', [
  layerRecord,
  artboardRecord,
  sliceRecord,
  editionRecord,
  specRecord,
  outputRecord,
  fontRecord,
  acceptanceRecord,
  settingsRecord,
]);
/** The schema of each kind of record. */
export const RECORD_SCHEMAS = Object.fromEntries(
  anyRecord.options.map((schema) => [schema.shape.kind.value, schema]),
) as unknown as { readonly [K in ProjectRecord['kind']]: (typeof anyRecord.options)[number] };
/** Anything a project is made of. */
export type ProjectRecord = z.infer<typeof anyRecord>;
export type RecordKind = ProjectRecord['kind'];
export type RecordOf<K extends RecordKind> = Extract<ProjectRecord, { kind: K }>;

export const DEFAULT_SETTINGS: Settings = settingsRecord.parse({ id: SETTINGS_ID, kind: 'settings' });
