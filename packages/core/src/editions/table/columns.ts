import { parseColour, printColour } from '../../artwork/colour/colours';
import { count, listed } from '../../basics/words';
import type { ProjectDocument } from '../../document/document';
import { type Edition, type Layer, type LayerOverride, MAX_TEXT } from '../../document/records';
import { SHAPES } from '../../profile/allow-list';
import { isPlainText } from '../../profile/values';
import { showOnly } from '../make';
import { nameAt } from '../names';

/** What the cells of a column mean for its layer. */
export type Column = { layer: Layer; kind: 'which' | 'words' | 'colour' | 'shown' };
export type Overrides = Edition['overrides'];

const YES = /^(yes|y|true|1|on|show|shown|x|✓)$/i;
const NO = /^(no|n|false|0|off|hide|hidden|-)$/i;
const asShown = (cell: string): boolean | null => (YES.test(cell) ? true : NO.test(cell) ? false : null);

/** A cell without the blanks around it and without the mark that keeps a spreadsheet from taking words for a formula. */
export const asRead = (cell: string): string =>
  cell
    .trim()
    .replace(/^'(?=[=+\-@\t\r])/, '')
    .trim();

/**
 * The column a title means, or in words why there is none. `name: colour`, `name: shown` and `name: words` say which
 * kind. Where no layer has the name, `says` finds the one that it had before: the column whose cells it says.
 */
export function columnOf(
  doc: ProjectDocument,
  layers: readonly Layer[],
  title: string,
  says: (columns: readonly Column[]) => Column | null,
): Column | string {
  if (title === '') return 'a column without a name is left out';
  const [, wanted = '', suffix] = /^(.*?)(?:\s*:\s*(colour|color|shown|words))?$/i.exec(title) ?? [];
  const asColumn = (layer: Layer): Column => ({
    layer,
    kind: !suffix
      ? kindOf(doc, layer)
      : /^colou?r$/i.test(suffix)
        ? 'colour'
        : (suffix.toLowerCase() as 'shown' | 'words'),
  });
  const found = layers.filter((layer) => nameAt(layer).toLowerCase() === wanted.trim().toLowerCase());
  if (found.length > 1) return `${found.length} layers here are called ${wanted}; rename all but one`;
  const [layer] = found;
  if (layer) return asColumn(layer);
  return says(layers.map(asColumn)) ?? `no layer here is called ${wanted}`;
}

/** What a column means that is headed by a layer's name alone. */
function kindOf(doc: ProjectDocument, layer: Layer): Column['kind'] {
  if (layer.tag === 'text') return 'words';
  if (layer.tag === 'g' && doc.children(layer.id).length > 1) return 'which';
  return SHAPES.has(layer.tag) ? 'colour' : 'shown';
}

/** How a column is headed. */
export const titleOf = (doc: ProjectDocument, { layer, kind }: Column): string =>
  kind === kindOf(doc, layer) ? nameAt(layer) : `${nameAt(layer)}: ${kind}`;

/** What a cell changes, or in words why it cannot. */
export function overridesOf(doc: ProjectDocument, { layer, kind }: Column, cell: string): Overrides | string {
  const shown = asShown(cell);
  switch (kind) {
    case 'words': {
      if (layer.tag !== 'text') return `${nameAt(layer)} is no text`;
      const words = cell.replace(/\\n/g, '\n');
      if (words.length > MAX_TEXT)
        return `${count(words.length, 'letter')} are more than the ${MAX_TEXT.toLocaleString('en')} a text may have`;
      return isPlainText(words) ? { [layer.id]: { words } } : 'these words hold control characters';
    }
    case 'which': {
      const child = doc.children(layer.id).find((each) => nameAt(each).toLowerCase() === cell.toLowerCase());
      if (child) return showOnly(doc, layer.id, child.id);
      return shown === null
        ? `${nameAt(layer)} has no layer called ${cell}; it has ${listed(doc.children(layer.id).map(nameAt).slice(0, 8))}`
        : { [layer.id]: { shown } };
    }
    case 'colour': {
      const colour = parseColour(cell);
      if (colour) return { [layer.id]: { tint: printColour({ ...colour, a: 1 }) } };
      return shown === null ? `${cell} is no colour` : { [layer.id]: { shown } };
    }
    case 'shown':
      return shown === null ? `${cell} is neither yes nor no` : { [layer.id]: { shown } };
  }
}

/** What an edition says in a column; empty where it follows the base, null where no cell can say it. */
export function cellOf(doc: ProjectDocument, { layer, kind }: Column, overrides: Overrides): string | null {
  const { words, tint, shown }: LayerOverride = overrides[layer.id] ?? {};
  const yesNo = shown === undefined ? '' : shown ? 'yes' : 'no';
  switch (kind) {
    case 'words':
      return words?.replace(/\n/g, '\\n') ?? '';
    case 'colour':
      return tint ?? '';
    case 'shown':
      return yesNo;
    case 'which': {
      const children = doc.children(layer.id);
      if (children.every(({ id }) => overrides[id]?.shown === undefined)) return '';
      const showing = children.filter((child) => overrides[child.id]?.shown ?? child.shown);
      const names = children.map((child) => nameAt(child).toLowerCase());
      const [one] = showing;
      return showing.length === 1 && names.filter((name) => name === nameAt(one).toLowerCase()).length === 1
        ? nameAt(one)
        : null;
    }
  }
}

/** Overrides without what a column speaks of. */
export function without(doc: ProjectDocument, { layer, kind }: Column, overrides: Overrides): Overrides {
  const field = { words: 'words', colour: 'tint', shown: 'shown', which: 'shown' }[kind] as keyof LayerOverride;
  const ids = kind === 'which' ? doc.children(layer.id).map(({ id }) => id) : [layer.id];
  const left = { ...overrides };
  for (const id of ids) {
    if (left[id]?.[field] === undefined) continue;
    const { [field]: _, ...rest } = left[id];
    if (Object.keys(rest).length > 0) left[id] = rest;
    else delete left[id];
  }
  return left;
}
