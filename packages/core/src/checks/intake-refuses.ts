import type { Leaf } from '../artwork/bounds/bounds';
import { opaqueKey, parseColour, printColour } from '../artwork/colour/colours';
import { listed } from '../basics/words';
import { groundOf } from '../compose/look';
import type { Output, ProjectRecord } from '../document/records';
import { FORMATS } from '../formats';
import type { Region } from '../geometry/region';
import { incompletePieces, type Mendable, refusals, tooHeavy } from '../handover/intake-rules';
import { meantFor, type Taker } from '../handover/takes';
import { pieceRecord } from '../pieces/pieces';
import type { PlannedFile } from '../plan/plan';
import type { Check, Finding, Looked, Surroundings } from './check';

const SLACK = 1e-3;

/** Whether a drawn rectangle of one opaque colour covers all of a region. */
const covers = ({ layer, fill, minX, minY, maxX, maxY }: Leaf, region: Region): boolean => {
  const colour = parseColour(fill);
  return (
    layer.tag === 'rect' &&
    !layer.attrs.rx &&
    layer.opacity === 1 &&
    !!colour &&
    printColour(colour) === opaqueKey(colour) &&
    minX <= region.x + SLACK &&
    minY <= region.y + SLACK &&
    maxX >= region.x + region.width - SLACK &&
    maxY >= region.y + region.height - SLACK
  );
};

/** Whether a planned file of pixels will have see-through places. */
function willHaveAlpha({ piece, leaves }: Looked, output: Output, { doc }: Surroundings): boolean {
  return (
    output.settings.format !== 'jpeg' &&
    !groundOf(doc, piece, output) &&
    !leaves.some((leaf) => covers(leaf, piece.region))
  );
}

const inTimes = (sizes: readonly number[]): string => listed(sizes.map((size) => `${size}×`));

const MENDS: Record<NonNullable<Mendable>, string> = { small: 'Small letters', capital: 'Capital letters' };

/** Of planned files those that are meant for a receiver. */
function filesFor({ takes }: Taker, files: readonly PlannedFile[], { doc }: Surroundings): readonly PlannedFile[] {
  if (takes.pieceIds === null && takes.specIds === null) return files;
  const isMeant = meantFor(takes);
  return files.filter(({ pieceId, outputId }) => isMeant(pieceId, doc.find('output', outputId)?.specId));
}

/** What a receiver's rules say of a piece's files, the same of several in one finding. */
function saidOf(taker: Taker, looked: Looked, surroundings: Surroundings): Omit<Finding, 'check' | 'pieceId'>[] {
  const { rules } = taker;
  const said = new Map<string, { files: PlannedFile[]; mend: Mendable }>();
  for (const file of filesFor(taker, looked.files, surroundings)) {
    const output = surroundings.doc.find('output', file.outputId);
    if (!output) continue;
    const known = {
      ...file,
      alpha: FORMATS[file.format].raster ? willHaveAlpha(looked, output, surroundings) : undefined,
    };
    for (const { words, mend } of refusals(rules, known)) {
      const same = said.get(words) ?? { files: [], mend };
      same.files.push(file);
      said.set(words, same);
    }
  }
  const { name } = looked.piece;
  return [...said].map(([words, { files, mend }]) => {
    const fixed = mend === 'small' ? name.toLowerCase() : mend === 'capital' ? name.toUpperCase() : name;
    return {
      severity: 'warning',
      ...(files.length === 1 ? { outputId: files[0].outputId } : {}),
      message: `${rules.name} ${words}`,
      ...(mend && fixed !== name ? { mend: MENDS[mend], about: fixed } : {}),
    };
  });
}

export const intakeRefuses: Check = {
  name: 'intake-refuses',
  plural: 'would not be taken by a receiver',
  about: 'A file breaks the rules of a receiver, so it would not be taken there.',
  example: 'A PNG called "Boat.png" for an app build that takes names in small letters.',
  look: (looked, surroundings) => (surroundings.intakes ?? []).flatMap((taker) => saidOf(taker, looked, surroundings)),
  survey(all, surroundings) {
    const { intakes = [], bytesOf } = surroundings;
    const planned = all.flatMap((looked) => looked.files);
    return intakes
      .map((taker) => ({ rules: taker.rules, files: filesFor(taker, planned, surroundings) }))
      .flatMap(({ rules, files }) => [
        // Weights become known by and by, so they are not remembered with the piece.
        ...files.flatMap(({ pieceId, outputId }) => {
          const bytes = rules.largestBytes === null ? undefined : bytesOf?.(pieceId, outputId);
          const heavy = bytes === undefined ? null : tooHeavy(rules, bytes);
          return heavy ? [{ severity: 'warning' as const, pieceId, outputId, message: `${rules.name} ${heavy}` }] : [];
        }),
        ...incompletePieces(rules, files).map(({ pieceId, missing }) => ({
          severity: 'warning' as const,
          pieceId,
          message: `${rules.name} takes pieces in ${inTimes(rules.complete)}, this lacks ${inTimes(missing)}`,
        })),
      ]);
  },
  mend({ pieceId, about }, { doc }) {
    const record = pieceRecord(doc, pieceId);
    if (!record || !about || record.name === about) return null;
    return { label: `rename ${record.name}`, puts: [{ ...record, name: about } as ProjectRecord], removes: [] };
  },
};
