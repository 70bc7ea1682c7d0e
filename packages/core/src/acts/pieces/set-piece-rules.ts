import * as z from 'zod';
import { byPieceRules } from '../../arrange/piece-rules';
import { ProjectDocument } from '../../document/document';
import { MAX_PIECE_RULES, type ProjectRecord, pieceRule, SETTINGS_ID, type Settings } from '../../document/records';
import { defineAct } from '../act';

export const setPieceRules = defineAct({
  name: 'set-piece-rules',
  title: 'Pieces by rule',
  group: 'Pieces',
  needs: 'nothing',
  /** In place of the rules that there are. */
  settings: z.object({ rules: z.array(pieceRule).max(MAX_PIECE_RULES) }),
  nothing: 'The rules are so already, and all that they mean is a piece',
  run: (doc, _intent, { rules }) => {
    const settings: Settings = { ...doc.settings, id: SETTINGS_ID, kind: 'settings', pieceRules: rules };
    const scratch = new ProjectDocument(doc.all());
    scratch.apply({ puts: [settings], removes: [] });
    const { puts, removes } = byPieceRules(scratch);
    const isNew = JSON.stringify(doc.settings.pieceRules ?? []) !== JSON.stringify(rules);
    return {
      label: 'pieces by rule',
      puts: [...(isNew ? [settings as ProjectRecord] : []), ...puts],
      removes,
      ...(puts.length > 0 && { selected: puts.map(({ id }) => id) }),
    };
  },
});
