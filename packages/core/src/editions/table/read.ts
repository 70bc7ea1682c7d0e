import { groupBy } from '../../basics/group-by';
import { inputWords } from '../../basics/input-words';
import { same } from '../../basics/same';
import type { ProjectDocument } from '../../document/document';
import { type Artboard, type Edition, recordName } from '../../document/records';
import { type EditionDraft, editionsOf, layersWithin, MAX_EDITIONS } from '../make';
import { trimmedOverrides } from '../overrides';
import { asRead, type Column, cellOf, columnOf, type Overrides, overridesOf, titleOf, without } from './columns';

/** Something in a table that cannot be used; rows and columns count from 1, the header is row 1. */
export type TableTrouble = { row: number; column: number; message: string };

/** A table held against the editions there are; rows and editions belong together by their names. */
export type EditionTable = {
  /** Rows of no edition there is. */
  drafts: readonly EditionDraft[];
  /** Editions as rows make them, where that is not what they are. */
  changed: readonly Edition[];
  /** Editions whose rows say what they are. */
  same: readonly Edition[];
  /** Editions without a row. */
  missing: readonly Edition[];
  /** Cells that say what the base says: no difference, so what they speak of follows it. */
  likeBase: number;
  /** Columns headed by a name that their layer had before, known by what they say. */
  renamed: readonly { was: string; now: string }[];
  trouble: readonly TableTrouble[];
};

/** The largest table that is read, in bytes of UTF-8 and in characters. */
export const MAX_TABLE_BYTES = 4 * 1_048_576;
const MOST_TROUBLE = 50;

/**
 * Reads editions from a table: a row each, below one of titles. The first column names the edition. Every other is
 * headed by a layer's name and says, for a group, which of its layers shows; for a text, its words; for a shape, its
 * colour or whether it shows. `name: colour` and `name: shown` say which is meant. An empty cell is as the base has it.
 * What cannot be used is told and left out; the rest is read. A cell that says what its edition already is changes
 * nothing, and what no column speaks of stays.
 */
export function readEditionTable(
  doc: ProjectDocument,
  artboard: Artboard,
  table: readonly (readonly string[])[],
): EditionTable {
  const trouble: TableTrouble[] = [];
  const tell = (row: number, column: number, message: string) =>
    void (trouble.length < MOST_TROUBLE && trouble.push({ row, column, message }));
  const editions = editionsOf(doc, artboard);
  const [header = [], ...rows] = table.map((row) => row.map(asRead));
  const read = { drafts: [] as EditionDraft[], changed: [] as Edition[], same: [] as Edition[], trouble };
  // A table that says nothing says of no edition that it is missing.
  const none = () => ({ ...read, renamed: [], missing: [], likeBase: 0 });
  if (rows.length === 0) {
    tell(1, 1, 'a table needs a row of column names and at least one row below it');
    return none();
  }
  if (rows.length > MAX_EDITIONS) {
    tell(
      MAX_EDITIONS + 2,
      1,
      `${rows.length.toLocaleString('en')} rows are more than the ${MAX_EDITIONS.toLocaleString('en')} editions one artboard may have`,
    );
    return none();
  }
  const layers = layersWithin(doc, artboard);
  const known = groupBy(editions, ({ name }) => name.toLowerCase());
  const rowsKnown = rows.flatMap((row) => {
    const [edition, ...others] = known.get((row[0] ?? '').toLowerCase()) ?? [];
    return edition && others.length === 0 ? [{ row, edition }] : [];
  });
  const taken = new Set(header.map((title) => title.toLowerCase()));
  const renamed: { was: string; now: string }[] = [];
  const columns = header.map((title, i) => {
    if (i === 0) return null;
    const column = columnOf(doc, layers, title, (candidates) => {
      const free = candidates.filter((each) => !taken.has(titleOf(doc, each).toLowerCase()));
      const found = sayingTheSame(doc, free, rowsKnown, i);
      if (found) {
        taken.add(titleOf(doc, found).toLowerCase());
        renamed.push({ was: title, now: titleOf(doc, found) });
      }
      return found;
    });
    if (typeof column !== 'string') return column;
    tell(1, i + 1, column);
    return null;
  });
  const rowOf = new Map<string, number>();
  let likeBase = 0;
  rows.forEach((row, i) => {
    const at = i + 2;
    const name = recordName.safeParse(row[0] ?? '');
    if (!name.success) return tell(at, 1, `the name needs ${inputWords(name.error.issues[0])}`);
    const key = name.data.toLowerCase();
    const before = rowOf.get(key);
    if (before !== undefined) return tell(at, 1, `${name.data} is the name of row ${before}, too`);
    rowOf.set(key, at);
    const [edition, ...others] = known.get(key) ?? [];
    if (others.length > 0)
      return tell(at, 1, `${others.length + 1} editions are called ${name.data}; rename all but one`);
    const said = rowOn(doc, columns, row, edition?.overrides ?? {}, (column, message) => tell(at, column, message));
    likeBase += said.likeBase;
    if (!edition) read.drafts.push({ name: name.data, overrides: said.overrides });
    else if (said.touched) read.changed.push({ ...edition, overrides: said.overrides });
    else read.same.push(edition);
  });
  return { ...read, renamed, missing: editions.filter(({ name }) => !rowOf.has(name.toLowerCase())), likeBase };
}

/** Of the rows of a column, the part that has to say what the editions say for the column to be known by it. */
const SAYS_THE_SAME = 0.6;

/** The one column that says of the editions what their rows say at a place; null when none or several do. */
function sayingTheSame(
  doc: ProjectDocument,
  columns: readonly Column[],
  rows: readonly { row: readonly string[]; edition: Edition }[],
  at: number,
): Column | null {
  const scored = columns.map((column) => {
    let [alike, said] = [0, 0];
    for (const { row, edition } of rows) {
      const [cell, is] = [row[at] ?? '', asRead(cellOf(doc, column, edition.overrides) ?? '')];
      if (cell === '' && is === '') continue;
      said++;
      if (cell === is) alike++;
    }
    return { column, alike: alike >= said * SAYS_THE_SAME ? alike : 0 };
  });
  const most = Math.max(0, ...scored.map(({ alike }) => alike));
  const best = scored.filter(({ alike }) => alike === most);
  return most > 0 && best.length === 1 ? best[0].column : null;
}

/** What a row makes of what its edition holds. First all that its cells speak of goes, then each says its own. */
function rowOn(
  doc: ProjectDocument,
  columns: readonly (Column | null)[],
  row: readonly string[],
  held: Overrides,
  tell: (column: number, message: string) => void,
): { overrides: Overrides; touched: boolean; likeBase: number } {
  const says = columns.flatMap((column, c) => {
    const cell = row[c] ?? '';
    return !column || cell === asRead(cellOf(doc, column, held) ?? '') ? [] : [{ column, cell, at: c + 1 }];
  });
  let overrides = held;
  const given: Overrides[] = [];
  for (const { column, cell, at } of says) {
    const one = cell === '' ? {} : overridesOf(doc, column, cell);
    if (typeof one === 'string') {
      tell(at, one);
      continue;
    }
    overrides = without(doc, column, overrides);
    if (cell !== '') given.push(one);
  }
  let likeBase = 0;
  for (const one of given) {
    const kept = trimmedOverrides(doc, one);
    if (Object.keys(kept).length === 0) likeBase++;
    for (const [id, override] of Object.entries(kept))
      overrides = { ...overrides, [id]: { ...overrides[id], ...override } };
  }
  return { overrides, touched: !same(overrides, held), likeBase };
}
