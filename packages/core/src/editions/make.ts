import { layersOn } from '../arrange/move';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import {
  type Artboard,
  type Edition,
  editionRecord,
  type Layer,
  type LayerOverride,
  type ProjectRecord,
} from '../document/records';
import { nameAt } from './names';

/** Editions of one artboard, at the most. */
export const MAX_EDITIONS = 2000;

/** An edition before it is made. */
export type EditionDraft = { name: string; overrides: Record<string, LayerOverride> };

/** Every layer on an artboard with what is in it. */
export const layersWithin = (doc: ProjectDocument, artboard: Artboard): Layer[] =>
  layersOn(doc, artboard)
    .flatMap((top) => doc.descendants(top.id))
    .map((id) => doc.find('layer', id) as Layer);

/** The editions of an artboard, in their order. */
export const editionsOf = (doc: ProjectDocument, { id }: Pick<Artboard, 'id'>): Edition[] =>
  doc.list('edition').filter(({ artboardId }) => artboardId === id);

/** In a group, one layer shows and the others do not. */
export function showOnly(doc: ProjectDocument, groupId: string, childId: string): Record<string, LayerOverride> {
  const overrides: Record<string, LayerOverride> = {};
  for (const child of doc.children(groupId))
    if (child.shown !== (child.id === childId)) overrides[child.id] = { shown: child.id === childId };
  return overrides;
}

/** Editions as records, after those there are. An artboard that had none becomes no file of its own any more. */
export function makeEditions(
  doc: ProjectDocument,
  artboard: Artboard,
  drafts: readonly EditionDraft[],
): ProjectRecord[] {
  const before = editionsOf(doc, artboard);
  const orders = ordersAfter(lastOrder(before), drafts.length);
  const { specIds, offOutputIds } = artboard;
  const made: Edition[] = drafts.map(({ name, overrides }, i) =>
    editionRecord.parse({
      id: newId(),
      kind: 'edition',
      artboardId: artboard.id,
      order: orders[i],
      name,
      overrides,
      specIds,
      offOutputIds,
    }),
  );
  return before.length === 0 && made.length > 0 && artboard.on ? [{ ...artboard, on: false }, ...made] : made;
}

/** A group whose layers stand for one another, and which of them are wanted. */
export type Choice = { group: Layer; options: readonly Layer[] };

/** Groups on an artboard that hold two layers or more, whose layers could take turns; the one that holds all the artwork is none. */
export function choicesOn(doc: ProjectDocument, artboard: Artboard): Choice[] {
  const tops = layersOn(doc, artboard);
  return layersWithin(doc, artboard).flatMap((group) => {
    const options = group.tag === 'g' && !(tops.length === 1 && tops[0].id === group.id) ? doc.children(group.id) : [];
    return options.length > 1 ? [{ group, options }] : [];
  });
}

/**
 * An edition for every combination of one layer of each group, the last group changing fastest. In the template, the
 * name of a group in braces stands for the layer that shows in it; `{base}` for the artboard, `{n}` for the count from 1.
 */
export function combinations(
  doc: ProjectDocument,
  artboard: Artboard,
  choices: readonly Choice[],
  naming: string,
): EditionDraft[] {
  let all: { picked: Layer[]; overrides: Record<string, LayerOverride> }[] = [{ picked: [], overrides: {} }];
  for (const { group, options } of choices) {
    if (all.length * options.length > MAX_EDITIONS) return [];
    all = all.flatMap(({ picked, overrides }) =>
      options.map((option) => ({
        picked: [...picked, option],
        overrides: { ...overrides, ...showOnly(doc, group.id, option.id) },
      })),
    );
  }
  if (choices.length === 0) return [];
  return all.map(({ picked, overrides }, i) => {
    const words = new Map<string, string>([
      ['base', artboard.name],
      ['n', String(i + 1)],
    ]);
    choices.forEach(({ group }, at) => words.set(nameAt(group).toLowerCase(), nameAt(picked[at])));
    const name = naming
      .replace(/\{([^{}]+)\}/g, (whole, word: string) => words.get(word.trim().toLowerCase()) ?? whole)
      .trim();
    return { name: name || picked.map(nameAt).join('-'), overrides };
  });
}

/** The template that names all chosen groups. */
export const namingOf = (choices: readonly Choice[]): string =>
  choices.map(({ group }) => `{${nameAt(group)}}`).join('-');

/** How many combinations there are, however many. */
export const combinationCount = (choices: readonly Choice[]): number =>
  choices.length === 0 ? 0 : choices.reduce((product, { options }) => product * options.length, 1);
