import * as z from 'zod';
import { withWords } from '../../artwork/text/words';
import { layerRecord, MAX_TEXT } from '../../document/records';
import { withOverrides } from '../../editions/overrides';
import { defineAct } from '../act';
import { changedEdition } from '../doing/seen';
import { differing } from '../editions/differing';
import { textsOf } from './texts-of';

export const setWords = defineAct({
  name: 'set-words',
  title: 'Words of a text',
  group: 'Layers',
  needs: 'layers',
  /** Lines apart by line feeds; in the edition alone where changes go to one. */
  settings: z.object({ words: z.string().max(MAX_TEXT).regex(/\S/, 'a letter or more') }),
  nothing: 'It says so already',
  run: (doc, intent, { words }) => {
    const texts = textsOf(doc, intent.selection);
    const ids = texts.map(({ id }) => id);
    const edition = changedEdition(doc, intent, ids);
    const puts = edition
      ? [withOverrides(doc, edition, ids, (held) => ({ ...held, words }))]
      : texts.map((layer) => layerRecord.parse(withWords(layer, words)));
    const label = edition ? `words of ${edition.name}` : 'words of a text';
    return { label, puts: differing(doc, puts), removes: [] };
  },
});
