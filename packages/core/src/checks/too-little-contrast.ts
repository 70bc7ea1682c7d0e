import type { Leaf } from '../artwork/bounds';
import { contrast, parseColour, type Rgba } from '../artwork/colours';
import { coloursOfPaint } from '../artwork/paint-servers';
import { groundOf } from '../compose/compose';
import { AS_DRAWN, recolourValue, withRule } from '../compose/paint';
import type { ProjectDocument } from '../document/document';
import type { Edition, Layer } from '../document/records';
import { type Check, pieceRecord } from './check';

/** Below this nobody sees that anything is there (WCAG ratio 1 is no difference at all). */
const INVISIBLE = 1.25;

const word = ({ r, g, b }: Rgba) => (Math.min(r, g, b) > 235 ? 'White' : Math.max(r, g, b) < 40 ? 'Black' : 'Its colour');

/** Whether an edition shows a layer, with all groups around it. */
function showsIn(doc: ProjectDocument, { overrides }: Edition, layer: Layer): boolean {
  for (let at: Layer | undefined = layer; at; at = doc.find('layer', at.parentId)) if (at.benchOnly || !(overrides[at.id]?.shown ?? at.shown)) return false;
  return true;
}

/** The one colour an edition gives a layer: that of the outermost group it tints. */
function tintIn(doc: ProjectDocument, { overrides }: Edition, layer: Layer): string | undefined {
  let tint: string | undefined;
  for (let at: Layer | undefined = layer; at; at = doc.find('layer', at.parentId)) tint = overrides[at.id]?.tint ?? tint;
  return tint;
}

/** The colours that a piece's artwork is painted with; null when they cannot be told from its paints: a picture, a pattern. */
function paintsOf(doc: ProjectDocument, leaves: readonly Leaf[], edition: Edition | undefined): string[] | null {
  const paints = new Set<string>();
  for (const { fill, stroke, strokePx, layer } of leaves) {
    if (layer.tag === 'image') return null;
    const tint = edition && tintIn(doc, edition, layer);
    for (const paint of strokePx > 0 ? [fill, stroke] : [fill]) {
      const colours = coloursOfPaint(doc, paint);
      if (!colours) return null;
      for (const colour of colours) paints.add(tint ?? colour);
    }
  }
  return [...paints];
}

export const tooLittleContrast: Check = {
  name: 'too-little-contrast',
  about: 'Nothing of the artwork stands out from the ground it will be on.',
  example: 'A white icon in a JPEG, which is white where nothing else is said.',
  look({ piece, leaves, allLeaves, files, contrasts }, { doc }) {
    const edition = piece.record.kind === 'edition' ? piece.record : undefined;
    const shown = edition ? allLeaves.filter(({ layer }) => showsIn(doc, edition, layer)) : leaves;
    if (shown.length === 0) return [];
    const rule = piece.record.kind === 'artboard' ? piece.record.follows?.rule : undefined;
    let paints: string[] | null | undefined;
    return files.flatMap(({ outputId }, i) => {
      const output = doc.find('output', outputId);
      const ground = output && groundOf(doc, piece, output);
      const behind = ground ? parseColour(ground) : null;
      if (!output || !behind) return [];
      if (paints === undefined) paints = paintsOf(doc, shown, edition);
      const recolouring = withRule(withRule(AS_DRAWN, rule), output.recolour);
      const colours = paints?.map((paint) => parseColour(recolourValue(paint, recolouring))) ?? [];
      const [first] = colours;
      const paintedAlike = !!first && colours.every((colour) => colour && contrast(colour, behind) < INVISIBLE);
      // What was rendered is what counts; until then, what it is painted with.
      const rendered = contrasts[i];
      if (rendered === undefined ? !paintedAlike : rendered >= INVISIBLE) return [];
      const under = word(behind);
      const message = paintedAlike ? `${word(first)} on ${under === 'Its colour' ? 'nearly the same' : under.toLowerCase()}` : 'nothing in it stands out from its ground';
      return { severity: 'warning' as const, outputId, message, mend: 'Leave that file out' };
    });
  },
  mend({ pieceId, outputId }, { doc }) {
    const record = pieceRecord(doc, pieceId);
    return record && outputId && !record.offOutputIds.includes(outputId)
      ? { label: `leave a file of ${record.name} out`, puts: [{ ...record, offOutputIds: [...record.offOutputIds, outputId] }], removes: [] }
      : null;
  },
};
