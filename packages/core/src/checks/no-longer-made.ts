import { foldPath } from '../plan/names';
import type { Check } from './check';

const MOST_NAMED = 3;

export const noLongerMade: Check = {
  name: 'no-longer-made',
  plural: 'files are no longer made',
  about: 'Files that the last delivery had would not be made by the next.',
  example: 'An artboard was renamed, and whoever has the old files still waits for the old name.',
  survey(_, { plan, lastDelivery }) {
    if (!lastDelivery) return [];
    const made = new Set(plan.files.map((file) => foldPath(file.path)));
    const gone = lastDelivery.paths.filter((path) => !made.has(foldPath(path)));
    if (gone.length === 0) return [];
    const names = `${gone.slice(0, MOST_NAMED).join(', ')}${gone.length > MOST_NAMED ? ` and ${gone.length - MOST_NAMED} more` : ''}`;
    return [
      {
        severity: 'hint',
        pieceId: '',
        message: `delivery ${lastDelivery.number} had ${gone.length === 1 ? 'a file' : `${gone.length} files`} that would not be made again: ${names}`,
      },
    ];
  },
};
