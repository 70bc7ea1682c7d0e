import { z } from 'zod';
import { refuse } from '../basics/problem';
import { count } from '../basics/words';
import type { ProjectDocument } from '../document/document';
import { newId } from '../document/ids';
import { lastOrder, ordersAfter } from '../document/order';
import {
  type Artboard,
  type Edition,
  type Output,
  outputRecord,
  type ProjectRecord,
  recordId,
  type Slice,
  type Spec,
  specRecord,
} from '../document/records';
import { type Piece, picked, pieces } from '../pieces/pieces';
import { MOST_WORDS, type SaidOutput } from '../specs/outputs-in-words';
import { filesInWords, type SaidFiles } from '../specs/said-files';
import { isStartingSpec } from '../specs/spec-library';
import { unlikeOthers } from '../specs/vary-output';
import { defineAct } from './act';
import { specToAddTo } from './add-output';
import { mayHold, outputsOfSpec } from './output-of';

export const sayOutputs = defineAct({
  name: 'outputs-in-words',
  title: 'Outputs in words',
  group: 'Files',
  needs: 'nothing',
  /**
   * `words` as `filesInWords` reads them. What is for all goes to the last spec unless another is said; `instead` takes
   * its others out. What is for some pieces is a spec of its own that they follow in place of all others; the spec that
   * a project began with goes when nobody follows it then.
   */
  settings: z.object({
    words: z.string().max(MOST_WORDS),
    specId: recordId.optional(),
    instead: z.boolean().optional(),
  }),
  nothing: 'There is nothing to add',
  run(doc, _intent, { words, specId, instead }) {
    const said = filesInWords(words);
    if (typeof said === 'string')
      return refuse('outputs.words', said, { accepted: 'words such as “png 16 32 64, jpeg 512 on #0c6a53, svg”' });
    const all = said.find(({ who }) => who === null);
    const change =
      all && all.outputs.length > 0 ? forAll(doc, all.outputs, specId, instead) : { puts: [], removes: [] };
    const some = forSome(doc, said, change.puts);
    const outputs = said.reduce((sum, each) => sum + each.outputs.length, 0);
    const made = instead ? `make ${count(outputs, 'output')} instead` : `add ${count(outputs, 'output')}`;
    return {
      label: outputs > 0 ? made : 'switch pieces off',
      puts: some.puts,
      removes: [...change.removes, ...some.removes],
    };
  },
});

/** Outputs in the spec that is asked for or the last. */
function forAll(
  doc: ProjectDocument,
  said: readonly SaidOutput[],
  asked: string | undefined,
  instead: boolean | undefined,
): { puts: ProjectRecord[]; removes: string[] } {
  const { specId, puts } = specToAddTo(doc, asked);
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
  mayHold(siblings.length + said.length);
  const orders = ordersAfter(behind, said.length);
  const made: Output[] = [];
  for (const [i, fields] of said.entries()) {
    const output = outputRecord.parse({ id: newId(), kind: 'output', specId, order: orders[i], ...fields });
    made.push(unlikeOthers(output, [...siblings, ...made]));
  }
  return made;
}

type Follower = Artboard | Slice | Edition;

/** Specs of some pieces alone, and who is switched off; `puts` are what was said for all, which comes with it. */
function forSome(
  doc: ProjectDocument,
  said: readonly SaidFiles[],
  puts: readonly ProjectRecord[],
): { puts: ProjectRecord[]; removes: string[] } {
  const list = pieces(doc);
  const clauseOf = new Map<string, SaidFiles>();
  for (const clause of said) for (const { id } of namedBy(clause, list)) clauseOf.set(id, clause);
  for (const clause of said)
    if (clause.who === null && clause.outputs.length === 0)
      for (const { id } of list) if (!clauseOf.has(id)) clauseOf.set(id, clause);

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

/** Its first words, told apart from specs there are. */
function nameFor({ outputs, who }: SaidFiles, doc: ProjectDocument): string {
  const formats = [...new Set(outputs.map(({ settings }) => settings.format.toUpperCase()))].join(', ');
  const base = `${formats} of ${who}`.slice(0, 90);
  const taken = new Set(doc.list('spec').map(({ name }) => name.toLowerCase()));
  let name = base;
  for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${base} ${n}`;
  return name;
}
