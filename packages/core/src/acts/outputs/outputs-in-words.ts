import * as z from 'zod';
import { refuse } from '../../basics/problem';
import { same } from '../../basics/same';
import { unlike } from '../../basics/unlike';
import { count } from '../../basics/words';
import type { ProjectDocument } from '../../document/document';
import { newId } from '../../document/ids';
import { lastOrder, ordersAfter } from '../../document/order';
import { type Output, outputRecord, type ProjectRecord, recordId, type Spec, specRecord } from '../../document/records';
import { FORMATS } from '../../formats';
import { type Piece, picked, pieces } from '../../pieces/pieces';
import { MOST_WORDS, type SaidOutput } from '../../specs/outputs-in-words';
import { filesInWords, type SaidFiles } from '../../specs/said-files';
import { isStartingSpec } from '../../specs/spec-library';
import { unlikeOthers } from '../../specs/vary-output';
import { defineAct } from '../act';
import { specToAddTo } from './add-output';
import { mayHold, outputsOfSpec } from './output-of';
import { allFollowers, type Follower } from './spec-followers';

export const sayOutputs = defineAct({
  name: 'outputs-in-words',
  title: 'Outputs in words',
  group: 'Files',
  needs: 'nothing',
  /**
   * `words` as `filesInWords` reads them. What is for all, or for all others, goes to the last spec that most of them
   * follow, unless another is said; `instead` takes its others out. What is for some pieces is a spec of its own that they follow in place of all others; the spec that
   * a project began with goes when nobody follows it then.
   */
  settings: z.object({
    words: z.string().max(MOST_WORDS),
    specId: recordId.optional(),
    instead: z.boolean().optional(),
  }),
  nothing: 'These files are made already',
  run(doc, _intent, { words, specId, instead }) {
    const said = filesInWords(words);
    if (typeof said === 'string')
      return refuse('outputs.words', said, { accepted: 'words such as “png 16 32 64, jpeg 512 on #0c6a53, svg”' });
    const clauseOf = clausesByPiece(said, pieces(doc));
    const all = said.find(({ who }) => who === null);
    const others = allFollowers(doc).filter(({ id }) => !clauseOf.has(id));
    const change =
      all && all.outputs.length > 0 ? forAll(doc, all.outputs, others, specId, instead) : { puts: [], removes: [] };
    const some = forSome(doc, said, clauseOf, change.puts);
    const outputs = said.reduce((sum, each) => sum + each.outputs.length, 0);
    const made = instead ? `make ${count(outputs, 'output')} instead` : `add ${count(outputs, 'output')}`;
    return {
      label: outputs > 0 ? made : 'switch pieces off',
      puts: some.puts,
      removes: [...change.removes, ...some.removes],
    };
  },
});

/** Outputs of all pieces, or of all that are not named, in the spec that is asked for or that they share. */
function forAll(
  doc: ProjectDocument,
  said: readonly SaidOutput[],
  meant: readonly Follower[],
  asked: string | undefined,
  instead: boolean | undefined,
): { puts: ProjectRecord[]; removes: string[] } {
  const { specId, puts } = specToAddTo(doc, asked, meant);
  const siblings = outputsOfSpec(doc, specId);
  const made = outputsFrom(said, specId, instead ? [] : siblings, lastOrder(siblings));
  return { puts: [...puts, ...made], removes: instead ? siblings.map(({ id }) => id) : [] };
}

function outputsFrom(
  said: readonly SaidOutput[],
  specId: string,
  siblings: readonly Output[],
  behind: string | null,
): Output[] {
  // An output that the spec has already is not added a second time with another suffix.
  const fresh = said.filter(
    ({ suffix: _, ...fields }) =>
      !siblings.some(({ size, folder, background, room = 'piece', square = false, settings }) =>
        same(fields, { size, folder, background, room, square, settings }),
      ),
  );
  mayHold(siblings.length + fresh.length);
  const orders = ordersAfter(behind, fresh.length);
  const made: Output[] = [];
  for (const [i, fields] of fresh.entries()) {
    const output = outputRecord.parse({ id: newId(), kind: 'output', specId, order: orders[i], ...fields });
    made.push(unlikeOthers(output, [...siblings, ...made]));
  }
  return made;
}

/** What is said of each piece that is named, by its id; the last word holds, and "none" alone is of all others. */
function clausesByPiece(said: readonly SaidFiles[], list: readonly Piece[]): Map<string, SaidFiles> {
  const clauseOf = new Map<string, SaidFiles>();
  for (const clause of said) for (const { id } of namedBy(clause, list)) clauseOf.set(id, clause);
  const none = said.find(({ who, outputs }) => who === null && outputs.length === 0);
  if (none) for (const { id } of list) if (!clauseOf.has(id)) clauseOf.set(id, none);
  return clauseOf;
}

/** Specs of some pieces alone, and who is switched off; `puts` are what was said for all, which comes with it. */
function forSome(
  doc: ProjectDocument,
  said: readonly SaidFiles[],
  clauseOf: ReadonlyMap<string, SaidFiles>,
  puts: readonly ProjectRecord[],
): { puts: ProjectRecord[]; removes: string[] } {
  const list = pieces(doc);
  const specs = new Map<SaidFiles, Spec>();
  const wanted = said.filter((clause) => clause.who !== null && clause.outputs.length > 0);
  const orders = ordersAfter(lastOrder(doc.list('spec')), wanted.length);
  for (const [i, clause] of wanted.entries())
    specs.set(clause, specRecord.parse({ id: newId(), kind: 'spec', order: orders[i], name: nameFor(clause, doc) }));
  const [first] = specs.values();

  const records = new Map<string, ProjectRecord>(puts.map((record) => [record.id, record]));
  for (const [clause, spec] of specs) {
    records.set(spec.id, spec);
    for (const output of outputsFrom(clause.outputs, spec.id, [], null)) records.set(output.id, output);
  }
  const began = isStartingSpec(doc) ? doc.list('spec')[0] : undefined;
  const saysAll = said.some(({ who, outputs }) => who === null && outputs.length > 0);
  const isOver = began && first && !saysAll && list.every(({ id }) => clauseOf.has(id));
  for (const { id, record } of list) {
    const clause = clauseOf.get(id);
    if (!clause) continue;
    const spec = specs.get(clause);
    const piece = (records.get(id) ?? record) as Follower;
    const specIds = spec ? [spec.id] : isOver ? [first.id] : piece.specIds;
    records.set(id, { ...piece, specIds, on: clause.outputs.length > 0, offOutputIds: spec ? [] : piece.offOutputIds });
  }
  if (!isOver) return { puts: [...records.values()], removes: [] };
  records.set(doc.settings.id, { ...doc.settings, defaultSpecId: first.id });
  return {
    puts: [...records.values()],
    removes: [began.id, ...outputsOfSpec(doc, began.id).map(({ id }) => id)],
  };
}

function namedBy({ who }: SaidFiles, list: readonly Piece[]): readonly Piece[] {
  if (who === null) return [];
  const found = picked(list, who);
  return found.length > 0
    ? found
    : refuse('outputs.who', `no piece has the number or name “${who.slice(0, 60)}”`, {
        accepted: `a number from 1 to ${list.length}, or a name`,
      });
}

/** "PNG, SVG of 1-3", told apart from the specs there are. */
function nameFor({ outputs, who }: SaidFiles, doc: ProjectDocument): string {
  const formats = [...new Set(outputs.map(({ settings }) => FORMATS[settings.format].title))].join(', ');
  return unlike(
    `${formats} of ${who}`.slice(0, 90),
    doc.list('spec').map(({ name }) => name),
  );
}
