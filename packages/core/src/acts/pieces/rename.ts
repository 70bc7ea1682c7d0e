import * as z from 'zod';
import { NAMES_FROM, namesFrom } from '../../arrange/names-from';
import { previewRename } from '../../arrange/rename-many';
import { refuse } from '../../basics/problem';
import { count } from '../../basics/words';
import { pieces } from '../../pieces/pieces';
import { defineAct } from '../act';
import { chosenPieces } from '../doing/chosen';

const MOST_NAMES = 100_000;

const rule = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('replace'), find: z.string().max(300), replaceBy: z.string().max(300) }),
  z.object({
    kind: z.literal('template'),
    template: z.string().max(300),
    start: z.number().int().min(0).max(1_000_000).default(1),
    digits: z.number().int().min(1).max(9).default(1),
  }),
  z.object({ kind: z.literal('case'), letterCase: z.enum(['lower', 'kebab', 'snake', 'spaced']) }),
  z.object({ kind: z.literal('list'), names: z.array(z.string().max(300)).max(MOST_NAMES) }),
  z.object({ kind: z.literal('from'), from: z.enum(NAMES_FROM) }),
]);

export const rename = defineAct({
  name: 'rename',
  title: 'Rename many',
  group: 'Pieces',
  needs: 'pieces',
  settings: z.object({ rule }),
  nothing: 'They are called so already',
  run: (doc, { selection }, settings) => {
    const all = pieces(doc).map((piece) => piece.record);
    const chosen = chosenPieces(doc, selection);
    const rule =
      settings.rule.kind === 'from'
        ? { kind: 'list' as const, names: namesFrom(doc, chosen, settings.rule.from) }
        : settings.rule;
    const preview = previewRename(chosen, rule, all);
    const empty = preview.find(({ trouble }) => trouble === 'empty');
    if (empty)
      refuse('rename.empty', `${empty.record.name} would have no name`, { accepted: 'a name of a letter or more' });
    const changed = preview.filter(({ record, name }) => name !== record.name);
    return {
      label: `rename ${count(changed.length, 'piece')}`,
      puts: changed.map(({ record, name }) => ({ ...record, name })),
      removes: [],
    };
  },
});
