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

export const tooLittleContrast: Check = {
  name: 'too-little-contrast',
  about: 'Every colour of the artwork is nearly that of the ground it will be on.',
  example: 'A white icon in a JPEG, which is white where nothing else is said.',
  look({ piece, leaves, allLeaves, files }, { doc }) {
    const edition = piece.record.kind === 'edition' ? piece.record : undefined;
    const shown = edition ? allLeaves.filter(({ layer }) => showsIn(doc, edition, layer)) : leaves;
    const paints = new Set<string>();
    for (const { fill, stroke, strokePx, layer } of shown) {
      // A picture has colours of its own that are not known here.
      if (layer.tag === 'image') return [];
      const tint = edition && tintIn(doc, edition, layer);
      for (const paint of strokePx > 0 ? [fill, stroke] : [fill]) {
        const colours = coloursOfPaint(doc, paint);
        if (!colours) return [];
        for (const colour of colours) paints.add(tint ?? colour);
      }
    }
    const rule = piece.record.kind === 'artboard' ? piece.record.follows?.rule : undefined;
    const hits: { outputId: string; ground: string; colour: Rgba }[] = [];
    for (const file of files) {
      const output = doc.find('output', file.outputId);
      const ground = output && groundOf(doc, piece, output);
      const behind = ground ? parseColour(ground) : null;
      if (!output || !behind) continue;
      const recolouring = withRule(withRule(AS_DRAWN, rule), output.recolour);
      const colours = [...paints].map((paint) => parseColour(recolourValue(paint, recolouring)));
      if (colours.length === 0 || colours.some((colour) => !colour)) continue;
      if (colours.every((colour) => contrast(colour as Rgba, behind) < INVISIBLE)) hits.push({ outputId: file.outputId, ground: ground as string, colour: colours[0] as Rgba });
    }
    return hits.map(({ outputId, ground, colour }) => {
      const behind = parseColour(ground) as Rgba;
      return { severity: 'warning' as const, outputId, message: `${word(colour)} on ${word(behind) === 'Its colour' ? 'nearly the same' : word(behind).toLowerCase()}`, mend: 'Leave that file out' };
    });
  },
  mend({ pieceId, outputId }, { doc }) {
    const record = pieceRecord(doc, pieceId);
    return record && outputId && !record.offOutputIds.includes(outputId)
      ? { label: `leave a file of ${record.name} out`, puts: [{ ...record, offOutputIds: [...record.offOutputIds, outputId] }], removes: [] }
      : null;
  },
};
