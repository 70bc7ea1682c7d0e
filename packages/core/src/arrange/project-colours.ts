import { parseColour, printColour } from '../artwork/colour/colours';
import type { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import type { Artboard, Layer, ProjectRecord } from '../document/records';
import { referred } from '../profile/references';

/** Attributes that hold a paint (SVG 2 §13.2, §14.2.4, filter effects §10). */
const PAINT_ATTRIBUTES = ['fill', 'stroke', 'stop-color', 'flood-color', 'lighting-color', 'color'] as const;

/** A paint as `#rrggbb` without its alpha; null for what is no plain colour. */
export function plainColour(value: string | undefined): string | null {
  const colour = value ? parseColour(value) : null;
  return colour && printColour({ ...colour, a: 1 });
}

const known = new WeakMap<Layer, readonly string[]>();

/** The plain colours that one layer names, each as often as it does. */
function coloursOf(layer: Layer): readonly string[] {
  let colours = known.get(layer);
  if (!colours) {
    const values = [
      ...PAINT_ATTRIBUTES.map((name) => layer.attrs[name]),
      ...(layer.text ?? []).map((run) => run.attrs.fill),
    ];
    known.set(layer, (colours = values.flatMap((value) => plainColour(value) ?? [])));
  }
  return colours;
}

/** The plain colours that a project's artwork and artboards are painted with, the most used first. */
export function projectColours(doc: ProjectDocument): { colour: string; uses: number }[] {
  const uses = new Map<string, number>();
  const add = (colour: string | null) => colour && uses.set(colour, (uses.get(colour) ?? 0) + 1);
  for (const layer of doc.each('layer')) for (const colour of coloursOf(layer)) add(colour);
  for (const artboard of doc.each('artboard')) add(plainColour(artboard.background ?? undefined));
  return mostUsedFirst(uses);
}

const mostUsedFirst = (uses: ReadonlyMap<string, number>): { colour: string; uses: number }[] =>
  [...uses]
    .map(([colour, count]) => ({ colour, uses: count }))
    .sort((a, b) => b.uses - a.uses || (a.colour < b.colour ? -1 : 1));

const painted = (
  attrs: Record<string, string>,
  from: string,
  to: (value: string) => string,
): Record<string, string> | null => {
  let next: Record<string, string> | null = null;
  for (const name of PAINT_ATTRIBUTES) {
    if (plainColour(attrs[name]) !== from) continue;
    next ??= { ...attrs };
    next[name] = to(attrs[name]);
  }
  return next;
};

/** The definitions that a layer's paint, clip, mask or filter refers to, by id. */
const referredBy = ({ attrs }: Layer): string[] => Object.values(attrs).flatMap((value) => referred(value) ?? []);

/** Some layers with all that is in them, and the definitions that nothing else refers to. */
function layersWithin(doc: ProjectDocument, ids: Iterable<string>): ReadonlySet<string> {
  const within = new Set([...ids].flatMap((id) => (doc.find('layer', id) ? doc.descendants(id) : [])));
  const elsewhere = new Set<string>();
  const here = new Set<string>();
  for (const layer of doc.each('layer'))
    for (const id of referredBy(layer)) (within.has(layer.id) ? here : elsewhere).add(id);
  for (const id of here)
    if (!elsewhere.has(id) && doc.find('layer', id)) for (const inner of doc.descendants(id)) within.add(inner);
  return within;
}

/** The plain colours in some layers and all that is in them, gradients of their own among them, the most used first. */
export function coloursWithin(doc: ProjectDocument, ids: Iterable<string>): { colour: string; uses: number }[] {
  const uses = new Map<string, number>();
  for (const id of layersWithin(doc, ids)) {
    const layer = doc.find('layer', id);
    for (const colour of layer ? coloursOf(layer) : []) uses.set(colour, (uses.get(colour) ?? 0) + 1);
  }
  return mostUsedFirst(uses);
}

/**
 * One colour (`#rrggbb`) made another, alpha kept: wherever the project uses it, in artwork, definitions and the
 * backgrounds of artboards; or, with `ids`, in those layers and all that is in them.
 */
export function changeColour(doc: ProjectDocument, from: string, to: string, ids?: Iterable<string>): Change {
  const within = ids && layersWithin(doc, ids);
  const target = parseColour(to);
  const withAlpha = (value: string) => (target ? printColour({ ...target, a: parseColour(value)?.a ?? 1 }) : value);
  const puts: ProjectRecord[] = [];
  for (const layer of doc.each('layer')) {
    if (within && !within.has(layer.id)) continue;
    const attrs = painted(layer.attrs, from, withAlpha);
    const text = layer.text?.some((run) => plainColour(run.attrs.fill) === from)
      ? layer.text.map((run) => ({ ...run, attrs: painted(run.attrs, from, withAlpha) ?? run.attrs }))
      : undefined;
    if (attrs || text) puts.push({ ...layer, ...(attrs ? { attrs } : {}), ...(text ? { text } : {}) } satisfies Layer);
  }
  for (const artboard of within ? [] : doc.list('artboard'))
    if (artboard.background && plainColour(artboard.background) === from)
      puts.push({ ...artboard, background: withAlpha(artboard.background) } satisfies Artboard);
  return { label: `change ${from} to ${to}${within ? '' : ' everywhere'}`, puts, removes: [] };
}
