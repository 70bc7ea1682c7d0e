import { outputTitle } from '../plan/output-words';
import type { Check } from './check';

export const outputIdle: Check = {
  name: 'output-idle',
  plural: 'outputs make nothing',
  about: 'An output is on and makes nothing for any piece.',
  example: 'A spec that no piece follows any more.',
  survey(_, { doc, plan }) {
    if (plan.pieces.length === 0) return [];
    const busy = new Set(plan.files.map((file) => file.outputId));
    return plan.outputs
      .filter((output) => output.on && !busy.has(output.id))
      .map((output) => ({
        severity: 'hint' as const,
        pieceId: '',
        outputId: output.id,
        message: `${outputTitle(output)} of ${doc.find('spec', output.specId)?.name ?? 'a spec'} makes nothing`,
        mend: 'Switch it off',
      }));
  },
  mend({ outputId = '' }, { doc }) {
    const output = doc.find('output', outputId);
    return output?.on ? { label: 'switch an output off', puts: [{ ...output, on: false }], removes: [] } : null;
  },
};
