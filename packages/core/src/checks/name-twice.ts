import type { ProjectRecord } from '../document/records';
import { pieceRecord } from '../pieces/pieces';
import { foldPath } from '../plan/names';
import type { Check } from './check';

export const nameTwice: Check = {
  name: 'name-twice',
  plural: 'have a name that is taken',
  about: 'Two pieces have one name, so their files would take one path.',
  example: 'Two artboards called "tide-high" and "Tide-High".',
  look({ piece, files }, { plan }) {
    const clash = files.find((file) => file.clashCount > 0);
    if (!clash) return [];
    const other = plan.pieces.find((each) => each.id === clash.clashes[0].pieceId && each.id !== piece.id);
    // The first to have the name keeps it; the mend is offered on the others.
    const later = !!other && plan.pieces.indexOf(other) < plan.pieces.indexOf(piece);
    return [
      {
        severity: 'error',
        message: other
          ? `its name is taken by ${other.number === piece.number ? 'another edition' : `piece ${other.number}`} too`
          : `two of its files take the path ${clash.path}`,
        ...(later && { mend: 'Number it' }),
      },
    ];
  },
  mend({ pieceId }, { doc }) {
    const record = pieceRecord(doc, pieceId);
    if (!record) return null;
    const taken = new Set(
      [...doc.list('artboard'), ...doc.list('slice'), ...doc.list('edition')].map((each) => foldPath(each.name)),
    );
    let n = 2;
    while (taken.has(foldPath(`${record.name}-${n}`))) n++;
    return {
      label: `rename ${record.name}`,
      puts: [{ ...record, name: `${record.name}-${n}` } as ProjectRecord],
      removes: [],
    };
  },
};
