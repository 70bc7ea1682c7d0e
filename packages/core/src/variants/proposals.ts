import * as z from 'zod';
import {
  colourDistance,
  contrast,
  luminance,
  opaqueKey,
  parseColour,
  printColour,
  type Rgba,
  recolourBy,
} from '../artwork/colour/colours';
import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, artboardRecord, hexColour, type InkRule, type RecolourRule } from '../document/records';
import { isPlainLockup, sourcesOf } from '../pieces/placements';
import { assignInk, gapFor } from './assign-ink';
import { coloursUsed, paintOrder } from './colours-used';
import { inkOf } from './ink-of';
import { type Meetings, meltedColours, ONE_COLOUR } from './meetings';
import { READABLE, reversedOn, VISIBLE } from './reversed';

export const VARIANT_KEYS = ['reversed', 'mono-dark', 'mono-light', 'grey', 'one-tint'] as const;
export type VariantKey = (typeof VARIANT_KEYS)[number];

/** A variant before it is made. */
export type VariantProposal = {
  key: VariantKey;
  title: string;
  about: string;
  rule: RecolourRule;
  /** The ground it is made for; null for any light one. */
  background: string | null;
  /** The lowest contrast of its colours against its ground (WCAG 2.2), white where it has none; null when only pictures are there. */
  contrast: number | null;
  /** Whether any of it has less than it needs: 3 : 1, and 4.5 : 1 in letters and thin lines. */
  faint: boolean;
  /** Colours of the artwork whose parts cannot be told from what is beside them any more. */
  melted: readonly string[];
};

const INK = '#171b1c';
const WHITE = '#ffffff';
/** Largest difference of channels that still counts as grey. */
const NEUTRAL = 24;
/** Luminance up to which a colour of the artwork is dark enough for a ground. */
const DARK = 0.06;
/** Share of the artwork from which a colour has to be readable. */
const CARRIES = 0.05;

const mix = (a: Rgba, b: Rgba, t: number): Rgba => ({
  r: Math.round(a.r + (b.r - a.r) * t),
  g: Math.round(a.g + (b.g - a.g) * t),
  b: Math.round(a.b + (b.b - a.b) * t),
  a: a.a,
});
const spread = ({ r, g, b }: Rgba) => Math.max(r, g, b) - Math.min(r, g, b);

/** What proposals are made from: the colours of the artwork an artboard shows, and where they meet. */
export type ColourFacts = {
  used: readonly Rgba[];
  /** Whether a colour has to be readable: a vein or a highlight may blend in, what carries the mark may not. */
  carries: readonly boolean[];
  /** Whether letters or thin lines have it, which need more contrast than shapes. */
  fine: readonly boolean[];
  /** Colours in the order in which they are painted. */
  painted: readonly string[];
  meetings: Meetings;
  /** What a gap is wide in artwork of its size, in px of the source. */
  gapPx: number;
};

/** The facts of an artboard or lockup; `meetings` are those of its sources, as they were measured. */
export function colourFacts(doc: ProjectDocument, artboard: Artboard, meetings: Meetings): ColourFacts {
  const sources = sourcesOf(doc, artboard);
  const shares = coloursUsed(doc, sources);
  return {
    used: shares.map(({ colour }) => parseColour(colour) as Rgba),
    carries: shares.map(({ share }, i) => i === 0 || share >= CARRIES),
    fine: shares.map(({ fine }) => fine),
    painted: paintOrder(doc, sources),
    meetings,
    gapPx: gapFor(sources),
  };
}

/** What a colour needs against its ground: more where letters or thin lines have it. */
export const neededContrast = (fine: boolean): number => (fine ? READABLE : VISIBLE);

/**
 * The lowest contrast of what carries the artwork, recoloured, on a ground, null when nothing of it is inked; and whether any
 * of it has less than it needs. What becomes the ground is a hole in the artwork.
 */
function contrastOn(
  { used, carries, fine }: ColourFacts,
  rule: RecolourRule,
  ground: string | null,
): Pick<VariantProposal, 'contrast' | 'faint'> {
  const on = parseColour(ground ?? WHITE) as Rgba;
  const change = recolourBy(rule);
  const seen = used.flatMap((colour, i) => {
    const next = carries[i] ? (change?.(colour) ?? colour) : 'none';
    if (next === 'none' || (change && opaqueKey(next) === opaqueKey(on))) return [];
    const ratio = contrast({ ...next, a: 1 }, on);
    return [{ ratio, faint: ratio < neededContrast(fine[i]) }];
  });
  return {
    contrast: seen.length > 0 ? Math.min(...seen.map(({ ratio }) => ratio)) : null,
    faint: seen.some(({ faint }) => faint),
  };
}

type Draft = Pick<VariantProposal, 'key' | 'title' | 'about' | 'rule' | 'background'>;

const measured = (facts: ColourFacts, draft: Draft): VariantProposal => ({
  ...draft,
  ...contrastOn(facts, draft.rule, draft.background),
  melted: meltedColours(facts.meetings, draft.rule),
});

/** One ink that keeps apart what meets. */
const inkedBy = (colour: string, parts: Pick<InkRule, 'out' | 'apart' | 'gap'>): InkRule => ({
  kind: 'ink',
  colour,
  ...parts,
});

/**
 * The variants of a handover for one artboard or lockup, each with its rule, ground and contrast. Where its colours
 * meet, they are kept apart: in one ink by holes and gaps, else by how light they are.
 */
export function handoverVariants(facts: ColourFacts): VariantProposal[] {
  const { used } = facts;
  const darkest = used.reduce<Rgba | null>(
    (least, colour) => (!least || luminance(colour) < luminance(least) ? colour : least),
    null,
  );
  const brand = used.filter((colour) => spread(colour) > NEUTRAL).sort((a, b) => spread(b) - spread(a))[0];
  const ink = parseColour(INK) as Rgba;
  // The artwork's own dark, when it has one; else ink.
  const ground = darkest && luminance(darkest) < DARK ? { ...darkest, a: 1 } : ink;
  const white = parseColour(WHITE) as Rgba;
  const reversed = used.map((from, i) => reversedOn(ground, from, facts.fine[i] ? READABLE : VISIBLE));
  const grey = recolourBy({ kind: 'grey' });
  const greys = used.map((colour) => grey?.(colour) as Rgba);
  const told = keptApart(facts, greys, white);
  const parts = assignInk(facts.meetings, facts.painted, facts.gapPx);
  const tint = printColour({ ...(brand ?? ink), a: 1 });
  const drafts: Draft[] = [
    {
      key: 'reversed',
      title: 'Reversed',
      about: 'for dark grounds',
      rule: mapOf(used, keptApart(facts, reversed, ground)),
      background: printColour(ground),
    },
    { key: 'mono-dark', title: 'Mono dark', about: 'one ink', rule: inkedBy(INK, parts), background: null },
    { key: 'mono-light', title: 'Mono light', about: 'one ink, on dark', rule: inkedBy(WHITE, parts), background: INK },
    {
      key: 'grey',
      title: 'Grey',
      about: 'newsprint',
      rule: told === greys ? { kind: 'grey' } : mapOf(used, told),
      background: null,
    },
    { key: 'one-tint', title: 'One tint', about: tint, rule: inkedBy(tint, parts), background: null },
  ];
  return drafts.map((draft) => measured(facts, draft));
}

const mapOf = (from: readonly Rgba[], to: readonly Rgba[]): RecolourRule => ({
  kind: 'map',
  colours: from.map((colour, i) => ({ from: opaqueKey(colour), to: opaqueKey(to[i]) })),
});

/** How far apart, in OKLab, colours that meet are made where they were not. */
const TOLD_APART = 0.11;
const STEPS = 24;

/**
 * What colours become, changed as little as keeps those apart that meet: the one of two that needs the least is made
 * lighter or darker, rather so that it can still be read on its ground. The same list when nothing has to change.
 */
function keptApart({ used, meetings }: ColourFacts, becomes: readonly Rgba[], ground: Rgba): readonly Rgba[] {
  const places = new Map(used.map((colour, i) => [opaqueKey(colour), i]));
  const pairs = meetings.flatMap(({ colours: [one, other] }) => {
    const [a, b] = [places.get(one), places.get(other ?? '')];
    return a === undefined || b === undefined || a === b ? [] : [[a, b] as const];
  });
  const next = [...becomes];
  const isTold = ([a, b]: readonly [number, number]) => colourDistance(next[a], next[b]) >= ONE_COLOUR;
  if (pairs.every(isTold)) return becomes;
  const ends = [parseColour('#000000') as Rgba, parseColour(WHITE) as Rgba];
  for (const pair of pairs) {
    if (isTold(pair)) continue;
    let best: { place: number; colour: Rgba; cost: number } | null = null;
    for (const place of pair) {
      const beside = pairs.flatMap(([a, b]) => (a === place ? [next[b]] : b === place ? [next[a]] : []));
      for (const end of ends) {
        for (let step = 1; step <= STEPS; step++) {
          const colour = mix(next[place], end, step / STEPS);
          if (beside.some((other) => colourDistance(colour, other) < TOLD_APART)) continue;
          const cost = step + (contrast(colour, ground) < READABLE ? STEPS : 0);
          if (!best || cost < best.cost) best = { place, colour, cost };
          break;
        }
      }
    }
    if (best) next[best.place] = { ...best.colour, a: 1 };
  }
  return next;
}

/** A rule as a map of all the colours, so that each can be changed. */
export const asMap = ({ used }: ColourFacts, rule: RecolourRule): RecolourRule & { kind: 'map' } => ({
  kind: 'map',
  colours: used.map((colour) => {
    const change = recolourBy(rule);
    const to = change ? change(colour) : colour;
    return { from: opaqueKey(colour), to: to === 'none' ? to : opaqueKey(to) };
  }),
});

/** What somebody wants otherwise than it is proposed, by colours of the source. */
export const variantChoices = z.object({
  ground: hexColour.nullable().optional(),
  /** Of variants in one ink. */
  ink: hexColour.optional(),
  parts: z.record(hexColour, z.enum(['inked', 'apart', 'out'])).optional(),
  /** In px of the source. */
  gap: z.number().min(0).max(1000).optional(),
  /** Of other variants: what a colour becomes. */
  becomes: z.record(hexColour, z.union([hexColour, z.literal('none')])).optional(),
});
export type VariantChoices = z.infer<typeof variantChoices>;

/** A proposal as somebody wants it, measured anew. Colours that the source does not have are passed over. */
export function withChoices(facts: ColourFacts, proposal: VariantProposal, choices: VariantChoices): VariantProposal {
  const background = choices.ground === undefined ? proposal.background : choices.ground;
  return measured(facts, { ...proposal, background, rule: chosenRule(facts, proposal.rule, choices) });
}

function chosenRule(
  facts: ColourFacts,
  rule: RecolourRule,
  { ink, parts, gap, becomes }: VariantChoices,
): RecolourRule {
  const inked = inkOf(rule);
  if (inked) {
    const used = facts.used.map(opaqueKey);
    const partOf = (colour: string) =>
      parts?.[colour] ?? (inked.out.includes(colour) ? 'out' : inked.apart.includes(colour) ? 'apart' : 'inked');
    const apart = used.filter((colour) => partOf(colour) === 'apart');
    return inkedBy(ink ?? inked.colour, {
      out: used.filter((colour) => partOf(colour) === 'out'),
      apart,
      gap: apart.length > 0 ? (gap ?? (inked.gap || facts.gapPx)) : 0,
    });
  }
  if (!becomes || Object.keys(becomes).length === 0) return rule;
  const map = asMap(facts, rule);
  const chosen = (from: string, to: string) => {
    const parsed = parseColour(becomes[from] ?? '');
    return becomes[from] === 'none' ? 'none' : parsed ? opaqueKey(parsed) : to;
  };
  return { ...map, colours: map.colours.map(({ from, to }) => ({ from, to: chosen(from, to) })) };
}

/** A variant's name; `{source}` and `{variant}` stand for theirs. */
export const variantName = (naming: string, source: string, variant: VariantKey): string =>
  naming
    .replace(/\{source\}/g, source)
    .replace(/\{variant\}/g, variant)
    .trim() || `${source}-${variant}`;

/**
 * Artboards that follow a source, one below the other under it, a gap apart. Variants of a lockup are lockups of the
 * same emblem and wordmark. Throws a `Refusal` when the source is a variant itself: a chain would have no artwork of its own.
 */
export function makeVariants(
  doc: ProjectDocument,
  source: Artboard,
  proposals: readonly VariantProposal[],
  naming: string,
): Artboard[] {
  if (source.follows && !isPlainLockup(source))
    refuse('variant.chain', `${source.name} follows another artboard itself`, {
      accepted: 'an artboard with artwork of its own, or a lockup in its own colours',
    });
  const orders = ordersAfter(lastOrder(doc.list('artboard')), proposals.length);
  // Wide ones are seen from further off, where a name below takes more of the plane.
  const gap = Math.max(24, Math.round(source.height / 2.5), Math.round(source.width / 5));
  const column = doc
    .list('artboard')
    .filter(
      (artboard) =>
        artboard.x < source.x + source.width && artboard.x + artboard.width > source.x && artboard.y >= source.y,
    );
  let y = Math.ceil(Math.max(...[...column, source].map((artboard) => artboard.y + artboard.height))) + gap;
  return proposals.map(({ key, rule, background }, i) => {
    const follows = source.follows ? { ...source.follows, rule } : { artboardId: source.id, rule };
    const made = artboardRecord.parse({
      ...source,
      id: newId(),
      order: orders[i],
      name: variantName(naming, source.name, key),
      y,
      background,
      backgroundUse: background ? 'shown' : undefined,
      follows,
      // It has what its source has, also when that is said anew.
      smallest: undefined,
    });
    y += Math.ceil(source.height) + gap;
    return made;
  });
}
