import Papa from 'papaparse';
import { parseColour, printColour } from '../artwork/colour/colours';
import { textWords } from '../artwork/text/words';
import type { ProjectDocument } from '../document/document';
import { type Artboard, type Layer, type LayerOverride, recordName } from '../document/records';
import { SHAPES } from '../profile/allow-list';
import { choicesOn, type EditionDraft, layersWithin, MAX_EDITIONS, showOnly } from './make';
import { nameAt } from './names';

/** Something in a table that cannot be used; rows and columns count from 1, the header is row 1. */
export type TableTrouble = { row: number; column: number; message: string };

export type EditionTable = {
  header: readonly string[];
  drafts: readonly EditionDraft[];
  trouble: readonly TableTrouble[];
};

/**
 * Bytes of a text file as text: UTF-8 or UTF-16 by their mark, else UTF-8 when they are, else Windows-1252
 * (Encoding Standard), which spreadsheets still write.
 */
export function decodeText(bytes: Uint8Array): string {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

const YES = /^(yes|y|true|1|on|show|shown|x|✓)$/i;
const NO = /^(no|n|false|0|off|hide|hidden|-)$/i;
const MOST_TROUBLE = 50;

/** What the cells of a column mean for its layer. */
type Column = { layer: Layer; kind: 'which' | 'words' | 'colour' | 'shown' };

/**
 * Reads editions from a table: a row each, separated by commas, semicolons or tabs (RFC 4180 quoting). The first column
 * names the edition. Every other is headed by a layer's name and says, for a group, which of its layers shows; for a
 * text, its words; for a shape, its colour or whether it shows. `name: colour` and `name: shown` say which is meant.
 * An empty cell is as the base has it. What cannot be used is told and left out; the rest is read.
 */
export function readEditionTable(doc: ProjectDocument, artboard: Artboard, text: string): EditionTable {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: ['\t', ';', ','],
  });
  const trouble: TableTrouble[] = [];
  const tell = (row: number, column: number, message: string) =>
    trouble.length < MOST_TROUBLE && trouble.push({ row, column, message });
  const [header = [], ...rows] = data.map((row) => row.map((cell) => cell.trim()));
  if (rows.length === 0)
    return {
      header,
      drafts: [],
      trouble: [{ row: 1, column: 1, message: 'a table needs a row of column names and at least one row below it' }],
    };
  if (rows.length > MAX_EDITIONS) {
    tell(
      MAX_EDITIONS + 2,
      1,
      `${rows.length.toLocaleString('en')} rows are more than the ${MAX_EDITIONS.toLocaleString('en')} editions one artboard may have`,
    );
    return { header, drafts: [], trouble };
  }
  const layers = layersWithin(doc, artboard);
  const columns = header.map((title, i) =>
    i === 0 ? null : columnOf(doc, layers, title, (message) => tell(1, i + 1, message)),
  );
  const taken = new Map<string, number>(
    doc
      .list('edition')
      .flatMap((edition) => (edition.artboardId === artboard.id ? [[edition.name.toLowerCase(), 0]] : [])),
  );
  const drafts: EditionDraft[] = [];
  rows.forEach((row, i) => {
    const at = i + 2;
    const name = recordName.safeParse(row[0] ?? '');
    if (!name.success) return void tell(at, 1, `the name needs ${name.error.issues[0].message}`);
    const before = taken.get(name.data.toLowerCase());
    if (before !== undefined)
      return void tell(
        at,
        1,
        before === 0
          ? `there is an edition called ${name.data} already`
          : `${name.data} is the name of row ${before}, too`,
      );
    taken.set(name.data.toLowerCase(), at);
    const overrides: Record<string, LayerOverride> = {};
    columns.forEach((column, c) => {
      const cell = row[c] ?? '';
      if (!column || cell === '') return;
      const given = overridesOf(doc, column, cell);
      if (typeof given === 'string') return void tell(at, c + 1, given);
      for (const [id, override] of Object.entries(given)) overrides[id] = { ...overrides[id], ...override };
    });
    drafts.push({ name: name.data, overrides });
  });
  return { header, drafts, trouble };
}

function columnOf(
  doc: ProjectDocument,
  layers: readonly Layer[],
  title: string,
  tell: (message: string) => void,
): Column | null {
  const [, wanted, suffix] = /^(.*?)(?:\s*:\s*(colour|color|shown|words))?$/i.exec(title) ?? [];
  const found = layers.filter((layer) => nameAt(layer).toLowerCase() === (wanted ?? '').trim().toLowerCase());
  if (found.length === 0)
    tell(title === '' ? 'a column without a name is left out' : `no layer here is called ${wanted}`);
  else if (found.length > 1) tell(`${found.length} layers here are called ${wanted}; rename all but one`);
  if (found.length !== 1) return null;
  const [layer] = found;
  if (suffix)
    return { layer, kind: /^colou?r$/i.test(suffix) ? 'colour' : (suffix.toLowerCase() as 'shown' | 'words') };
  return {
    layer,
    kind:
      layer.tag === 'text'
        ? 'words'
        : layer.tag === 'g' && doc.children(layer.id).length > 1
          ? 'which'
          : SHAPES.has(layer.tag)
            ? 'colour'
            : 'shown',
  };
}

/** What a cell changes, or in words why it cannot. */
function overridesOf(
  doc: ProjectDocument,
  { layer, kind }: Column,
  cell: string,
): Record<string, LayerOverride> | string {
  const shown = YES.test(cell) ? true : NO.test(cell) ? false : null;
  switch (kind) {
    case 'words':
      return layer.tag === 'text'
        ? { [layer.id]: { words: cell.replace(/\\n/g, '\n').slice(0, 10_000) } }
        : `${nameAt(layer)} is no text`;
    case 'which': {
      const child = doc.children(layer.id).find((each) => nameAt(each).toLowerCase() === cell.toLowerCase());
      if (child) return showOnly(doc, layer.id, child.id);
      return shown === null
        ? `${nameAt(layer)} has no layer called ${cell}; it has ${doc.children(layer.id).map(nameAt).slice(0, 8).join(', ')}`
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

/** A table to begin with: the columns an artboard offers and one row of what the base shows. */
export function startingTable(doc: ProjectDocument, artboard: Artboard): string {
  const layers = layersWithin(doc, artboard);
  const names = layers.map((layer) => nameAt(layer).toLowerCase());
  const groups = new Set(choicesOn(doc, artboard).map(({ group }) => group));
  const once = ({ name }: Layer) =>
    name !== '' && names.indexOf(name.toLowerCase()) === names.lastIndexOf(name.toLowerCase());
  const columns = layers.filter((layer) => once(layer) && (layer.tag === 'text' || groups.has(layer)));
  const row = columns.map((layer) => {
    if (layer.tag === 'text') return textWords(layer).replace(/\n/g, '\\n');
    const children = doc.children(layer.id);
    return nameAt(children.find((child) => child.shown) ?? children[0]);
  });
  return `${['edition', ...columns.map((layer) => layer.name)].join('\t')}\n${[`${artboard.name}-1`, ...row].join('\t')}\n`;
}
