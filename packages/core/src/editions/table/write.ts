import { textWords } from '../../artwork/text/words';
import type { ProjectDocument } from '../../document/document';
import type { Artboard, Edition, Layer, LayerOverride } from '../../document/records';
import { choicesOn, editionsOf, layersWithin } from '../make';
import { nameAt } from '../names';
import { type Column, cellOf, titleOf } from './columns';

/**
 * The editions of an artboard as a table, its titles first: a column for every text and choice there is, and one for
 * every other thing in which they differ; an empty cell follows the base. Where there is none yet, one row of what the
 * base shows, to begin with. `left` counts the differences that no cell can say, such as an offset.
 */
export function editionTable(doc: ProjectDocument, artboard: Artboard): { rows: string[][]; left: number } {
  const editions = editionsOf(doc, artboard);
  const columns = columnsFor(doc, artboard, editions);
  const rows =
    editions.length > 0
      ? editions.map((edition) => [
          edition.name,
          ...columns.map((column) => cellOf(doc, column, edition.overrides) ?? ''),
        ])
      : [[`${artboard.name}-1`, ...columns.map((column) => baseCell(doc, column))]];
  return {
    rows: [['edition', ...columns.map((column) => titleOf(doc, column))], ...rows],
    left: differencesLeft(doc, editions, columns),
  };
}

function columnsFor(doc: ProjectDocument, artboard: Artboard, editions: readonly Edition[]): Column[] {
  const layers = layersWithin(doc, artboard);
  const names = new Map<string, number>();
  for (const layer of layers) {
    const name = nameAt(layer).toLowerCase();
    names.set(name, (names.get(name) ?? 0) + 1);
  }
  // A title is a layer's name, so it has to be one layer's alone and be no title of another kind.
  const once = (layer: Layer) =>
    layer.name !== '' &&
    layer.name === layer.name.trim() &&
    names.get(layer.name.toLowerCase()) === 1 &&
    !/:\s*(colour|color|shown|words)$/i.test(layer.name);
  const choices = new Set(choicesOn(doc, artboard).map(({ group }) => group.id));
  const differs = (layer: Layer, field: keyof LayerOverride) =>
    editions.some(({ overrides }) => overrides[layer.id]?.[field] !== undefined);
  const saidByGroup = new Set<string>();
  return layers.flatMap((layer) => {
    if (!once(layer)) return [];
    const columns: Column[] = [];
    if (layer.tag === 'text') columns.push({ layer, kind: 'words' });
    const which: Column = { layer, kind: 'which' };
    if (choices.has(layer.id) && editions.every(({ overrides }) => cellOf(doc, which, overrides) !== null)) {
      columns.push(which);
      for (const child of doc.children(layer.id)) saidByGroup.add(child.id);
    }
    if (differs(layer, 'tint')) columns.push({ layer, kind: 'colour' });
    if (differs(layer, 'shown') && !saidByGroup.has(layer.id)) columns.push({ layer, kind: 'shown' });
    return columns;
  });
}

/** What the base says in a column. */
function baseCell(doc: ProjectDocument, { layer, kind }: Column): string {
  if (kind === 'words') return textWords(layer).replace(/\n/g, '\\n');
  const children = doc.children(layer.id);
  return kind === 'which' ? nameAt(children.find((child) => child.shown) ?? children[0]) : '';
}

/** Differences that none of the columns speaks of. */
function differencesLeft(doc: ProjectDocument, editions: readonly Edition[], columns: readonly Column[]): number {
  const said = new Set(
    columns.flatMap(({ layer, kind }) =>
      kind === 'which'
        ? doc.children(layer.id).map(({ id }) => `${id} shown`)
        : [`${layer.id} ${kind === 'colour' ? 'tint' : kind}`],
    ),
  );
  let left = 0;
  for (const { overrides } of editions)
    for (const [id, override] of Object.entries(overrides))
      for (const field of Object.keys(override)) if (field !== 'was' && !said.has(`${id} ${field}`)) left++;
  return left;
}
