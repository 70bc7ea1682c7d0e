import { contrast, luminance, parseColour, printColour, type Rgba } from '../artwork/colour/colours';
import { refuse } from '../basics/problem';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import { type Artboard, artboardRecord, type RecolourRule } from '../document/records';
import { sourcesOf } from '../pieces/placements';
import { coloursUsed } from './colours-used';

export type VariantKey = 'reversed' | 'mono-dark' | 'mono-light' | 'grey' | 'one-tint';

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
};

const INK = '#171b1c';
const WHITE = '#ffffff';
/** What text needs to be read (WCAG 2.2 §1.4.3); a mark should not be harder to see. */
export const READABLE = 4.5;

/** Largest difference of channels that still counts as grey. */
const NEUTRAL = 24;
/** Share of the artwork from which a colour has to be readable. */
const CARRIES = 0.05;

const mix = (a: Rgba, b: Rgba, t: number): Rgba => ({
  r: Math.round(a.r + (b.r - a.r) * t),
  g: Math.round(a.g + (b.g - a.g) * t),
  b: Math.round(a.b + (b.b - a.b) * t),
  a: a.a,
});
const spread = ({ r, g, b }: Rgba) => Math.max(r, g, b) - Math.min(r, g, b);

/** A colour lightened, hue kept, until it can be read on a dark ground; as it is when it can be read already. */
export function lightenedFor(ground: Rgba, colour: Rgba): Rgba {
  const white = parseColour(WHITE) as Rgba;
  for (let t = 0; t <= 1; t += 0.04) {
    const next = mix(colour, white, t);
    if (contrast(next, ground) >= READABLE) return next;
  }
  return white;
}

/** The variants of a handover for one artboard or lockup, each with its rule, ground and contrast. */
export function handoverVariants(doc: ProjectDocument, artboard: Artboard): VariantProposal[] {
  const shares = coloursUsed(doc, sourcesOf(doc, artboard));
  const used = shares.map(({ colour }) => parseColour(colour) as Rgba);
  // A vein or a highlight may blend in; what carries the mark may not.
  const carries = (i: number) => i === 0 || shares[i].share >= CARRIES;
  const darkest = used.reduce<Rgba | null>(
    (least, colour) => (!least || luminance(colour) < luminance(least) ? colour : least),
    null,
  );
  const brand = used.filter((colour) => spread(colour) > NEUTRAL).sort((a, b) => spread(b) - spread(a))[0];
  // A dark of the brand's own hue, when it has one; else ink.
  const ground = brand
    ? mix(brand, parseColour('#0b1416') as Rgba, 0.62)
    : darkest && luminance(darkest) < 0.03
      ? darkest
      : (parseColour(INK) as Rgba);
  const paper = mix(parseColour(WHITE) as Rgba, ground, 0.04);
  // Neutrals become paper, as ink does on a dark ground; colours keep their hue.
  const reversed = used.map((from) => ({
    from: printColour({ ...from, a: 1 }),
    to: printColour({ ...(spread(from) <= NEUTRAL ? paper : lightenedFor(ground, from)), a: 1 }),
  }));
  const lowest = (colours: readonly Rgba[], on: Rgba) =>
    colours.length > 0 ? Math.min(...colours.filter((_, i) => carries(i)).map((colour) => contrast(colour, on))) : null;
  const white = parseColour(WHITE) as Rgba;
  const ink = parseColour(INK) as Rgba;
  const tint = brand ?? ink;
  const greys = used.map((colour) => {
    const l = luminance(colour);
    const value = Math.round(255 * (l <= 0.0031308 ? l * 12.92 : 1.055 * l ** (1 / 2.4) - 0.055));
    return { r: value, g: value, b: value, a: 1 };
  });
  return [
    {
      key: 'reversed',
      title: 'Reversed',
      about: 'for dark grounds',
      rule: { kind: 'map', colours: reversed },
      background: printColour({ ...ground, a: 1 }),
      contrast: lowest(
        reversed.map(({ to }) => parseColour(to) as Rgba),
        ground,
      ),
    },
    {
      key: 'mono-dark',
      title: 'Mono dark',
      about: 'one ink',
      rule: { kind: 'tint', colour: INK },
      background: null,
      contrast: contrast(ink, white),
    },
    {
      key: 'mono-light',
      title: 'Mono light',
      about: 'one ink, on dark',
      rule: { kind: 'white' },
      background: INK,
      contrast: contrast(white, ink),
    },
    {
      key: 'grey',
      title: 'Grey',
      about: 'newsprint',
      rule: { kind: 'grey' },
      background: null,
      contrast: lowest(greys, white),
    },
    {
      key: 'one-tint',
      title: 'One tint',
      about: printColour({ ...tint, a: 1 }),
      rule: { kind: 'tint', colour: printColour({ ...tint, a: 1 }) },
      background: null,
      contrast: contrast(tint, white),
    },
  ];
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
      follows,
    });
    y += Math.ceil(source.height) + gap;
    return made;
  });
}

/** A lockup in the colours of its sources, of which variants can be made. */
export const isPlainLockup = ({ follows }: Artboard): boolean =>
  !!follows?.lockup && follows.rule.kind === 'asDrawn' && !follows.lockup.guide;
