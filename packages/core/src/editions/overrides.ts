import { movedLayer } from '../arrange/move';
import { parseColour, printColour } from '../artwork/colour/colours';
import { textWords, withWords } from '../artwork/text/words';
import type { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import type { Edition, Layer, LayerOverride } from '../document/records';
import { printNumber } from '../geometry/matrix';
import { SHAPES } from '../profile/allow-list';

export type Difference = {
  layerId: string /** "Wording / summer, English". */;
  title: string;
  field: Exclude<keyof LayerOverride, 'was'>;
  words: string;
};

/** Whether a shape is all in one colour of its own, so that a tint of that colour says nothing. */
function isAllIn(layer: Layer | undefined, tint: string): boolean {
  const { fill, stroke = 'none' } = layer?.attrs ?? {};
  const same = (paint: string) => {
    const colour = parseColour(paint);
    return colour?.a === 1 && printColour(colour) === tint;
  };
  return !!layer && SHAPES.has(layer.tag) && !!fill && same(fill) && (stroke === 'none' || same(stroke));
}

/** An override without what says nothing: the base's own visibility, words and colour, no offset, full opacity. */
function trimmed(layer: Layer | undefined, override: LayerOverride): LayerOverride | null {
  const { shown, offset, tint, opacity, words } = override;
  const kept: LayerOverride = {};
  if (shown !== undefined && shown !== layer?.shown) kept.shown = shown;
  if (offset && (offset.x !== 0 || offset.y !== 0)) kept.offset = offset;
  if (tint !== undefined && !isAllIn(layer, tint)) kept.tint = tint;
  if (opacity !== undefined && opacity !== 1) kept.opacity = opacity;
  if (words !== undefined && !(layer?.tag === 'text' && words === textWords(layer))) kept.words = words;
  return Object.keys(kept).length > 0 ? kept : null;
}

/** Overrides without what says nothing. */
export const trimmedOverrides = (doc: ProjectDocument, overrides: Edition['overrides']): Edition['overrides'] =>
  Object.fromEntries(
    Object.entries(overrides).flatMap(([id, override]) => {
      const kept = trimmed(doc.find('layer', id), override);
      return kept ? [[id, kept]] : [];
    }),
  );

/** An edition in which layers differ from the base by `change`, on top of what it holds already. */
export function withOverrides(
  doc: ProjectDocument,
  edition: Edition,
  layerIds: Iterable<string>,
  change: (before: LayerOverride, layer: Layer) => LayerOverride,
): Edition {
  const overrides = { ...edition.overrides };
  for (const id of layerIds) {
    const layer = doc.find('layer', id);
    if (!layer) continue;
    const next = trimmed(layer, change(overrides[id] ?? {}, layer));
    if (next) overrides[id] = next;
    else delete overrides[id];
  }
  return { ...edition, overrides };
}

/** The edition follows the base again in one thing, or in all of a layer. */
export function takeBack(edition: Edition, layerId: string, field?: keyof LayerOverride): Edition {
  const { [layerId]: held, ...overrides } = edition.overrides;
  if (!held || !field) return { ...edition, overrides };
  const { [field]: _, ...rest } = held;
  const says = Object.keys(rest).some((name) => name !== 'was');
  return {
    ...edition,
    overrides: says ? { ...edition.overrides, [layerId]: rest } : overrides,
  };
}

/** One difference, or all of a layer, given to other editions as well. */
export function copyDifference(
  doc: ProjectDocument,
  edition: Edition,
  layerId: string,
  field: keyof LayerOverride | undefined,
  others: readonly Edition[],
): Edition[] {
  const held = edition.overrides[layerId] ?? {};
  const given: LayerOverride = field ? { [field]: held[field] } : held;
  return others
    .filter((other) => other.id !== edition.id)
    .map((other) => withOverrides(doc, other, [layerId], (before) => ({ ...before, ...given })));
}

/** What an edition shows, says, moves or fades becomes so in the base; the edition then follows it. Tints stay, since a base has none. */
export function givenToBase(doc: ProjectDocument, edition: Edition, layerId: string): Change | null {
  const layer = doc.find('layer', layerId);
  const held = edition.overrides[layerId];
  if (
    !layer ||
    !held ||
    (held.shown === undefined && !held.offset && held.opacity === undefined && held.words === undefined)
  )
    return null;
  const moved = held.offset ? movedLayer(doc, layer, held.offset.x, held.offset.y) : layer;
  const said = held.words === undefined ? moved : withWords(moved, held.words);
  const base: Layer = { ...said, shown: held.shown ?? layer.shown, opacity: layer.opacity * (held.opacity ?? 1) };
  const tint = held.tint === undefined ? {} : { [layerId]: { tint: held.tint } };
  const { [layerId]: _, ...rest } = edition.overrides;
  return {
    label: `give a difference of ${edition.name} to its base`,
    puts: [base, { ...edition, overrides: { ...rest, ...tint } }],
    removes: [],
  };
}

/** Everything in which an edition differs from its base, in words; layers that were deleted are named so. */
export function differences(doc: ProjectDocument, edition: Edition): Difference[] {
  const list: Difference[] = [];
  for (const [layerId, { shown, offset, tint, opacity, words: said, was }] of Object.entries(edition.overrides)) {
    const path: string[] = [];
    for (const at of doc.ancestors({ parentId: layerId })) path.unshift(at.name || at.tag);
    const title =
      path.length === 0 ? was || 'a layer that was deleted' : path.slice(path.length > 2 ? 1 : 0).join(' / ');
    const add = (field: Difference['field'], words: string) => list.push({ layerId, title, field, words });
    if (shown !== undefined) add('shown', shown ? 'shown' : 'hidden');
    if (said !== undefined) add('words', `says ${JSON.stringify(said.length > 40 ? `${said.slice(0, 39)}…` : said)}`);
    if (offset) add('offset', `moved ${printNumber(offset.x, 2)}, ${printNumber(offset.y, 2)}`);
    if (tint !== undefined) add('tint', `tinted ${tint}`);
    if (opacity !== undefined) add('opacity', `at ${Math.round(opacity * 100)} %`);
  }
  return list;
}
