import type { Leaf } from '../artwork/bounds/bounds';
import { coloursOfPaint } from '../artwork/bounds/paint-servers';
import { INVISIBLE, type Seen } from '../artwork/bounds/standing-out';
import { contrast, parseColour, type Rgba } from '../artwork/colour/colours';
import { groundOf } from '../compose/look';
import { AS_DRAWN, recolourValue, withRule } from '../compose/paint';
import type { ProjectDocument } from '../document/document';
import type { Edition, Layer } from '../document/records';
import { type Bounds, boundsOf, intersect, overlaps, unite } from '../geometry/matrix';
import type { Region } from '../geometry/region';
import type { Piece } from '../pieces/pieces';
import { followedLayout } from '../pieces/placements';
import type { Check } from './check';
import { leaveOut } from './leave-out';

/** A part of the artwork this long, of its own width or height, is missed when it cannot be seen. */
const MISSED = 0.2;
/** What fills a piece this far is its own ground. */
const FILLS = 0.98;

const word = ({ r, g, b }: Rgba) =>
  Math.min(r, g, b) > 235 ? 'White' : Math.max(r, g, b) < 40 ? 'Black' : 'Its colour';

/** Whether an edition shows a layer, with all groups around it. */
function showsIn(doc: ProjectDocument, { overrides }: Edition, layer: Layer): boolean {
  for (const at of doc.lineage(layer)) if (at.benchOnly || !(overrides[at.id]?.shown ?? at.shown)) return false;
  return true;
}

/** The one colour an edition gives a layer: that of the outermost group it tints. */
function tintIn(doc: ProjectDocument, { overrides }: Edition, layer: Layer): string | undefined {
  let tint: string | undefined;
  for (const at of doc.lineage(layer)) tint = overrides[at.id]?.tint ?? tint;
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

/**
 * The box of what an artboard shows, in px of the plane as its files view it; null when that is its own ground alone.
 * A slice cuts through artwork and an edition moves it: of those it is not told.
 */
function reachOf(doc: ProjectDocument, { record, region }: Piece, leaves: readonly Leaf[]): Bounds | null {
  const layout = record.kind === 'artboard' ? followedLayout(doc, record) : '';
  if (typeof layout === 'string') return null;
  const parts = layout?.placements ?? [{ source: region, x: 0, y: 0, scale: 1 }];
  let reach: Bounds | null = null;
  for (const { source, x, y, scale } of parts) {
    const area = boundsOf(source);
    for (const leaf of leaves) {
      const box = overlaps(leaf, area) ? intersect(leaf, area) : null;
      if (!box || (box.maxX - box.minX >= source.width * FILLS && box.maxY - box.minY >= source.height * FILLS))
        continue;
      const [left, top] = [region.x + x + (box.minX - source.x) * scale, region.y + y + (box.minY - source.y) * scale];
      reach = unite(reach, {
        minX: left,
        minY: top,
        maxX: left + (box.maxX - box.minX) * scale,
        maxY: top + (box.maxY - box.minY) * scale,
      });
    }
  }
  return reach;
}

/** Whether what is seen of a file stops well inside of what is there. */
function isMissing(reach: Bounds, [left, top, right, bottom]: NonNullable<Seen['box']>, view: Region): boolean {
  const [width, height] = [reach.maxX - reach.minX, reach.maxY - reach.minY];
  const [minX, minY, maxX, maxY] = [
    view.x + left * view.width,
    view.y + top * view.height,
    view.x + right * view.width,
    view.y + bottom * view.height,
  ];
  return (
    Math.max(minX - reach.minX, reach.maxX - maxX) > width * MISSED ||
    Math.max(minY - reach.minY, reach.maxY - maxY) > height * MISSED
  );
}

export const tooLittleContrast: Check = {
  name: 'too-little-contrast',
  plural: 'cannot be seen on their ground',
  about: 'Nothing of the artwork, or not all of it, can be told from the ground it will be on.',
  example:
    'A white icon in a JPEG, which is white where nothing else is said; a reversed logo on white, of which only the emblem is left.',
  look({ piece, leaves, allLeaves, files, seen }, { doc }) {
    const edition = piece.record.kind === 'edition' ? piece.record : undefined;
    const shown = edition ? allLeaves.filter(({ layer }) => showsIn(doc, edition, layer)) : leaves;
    if (shown.length === 0) return [];
    const rule = piece.record.kind === 'artboard' ? piece.record.follows?.rule : undefined;
    let paints: string[] | null | undefined;
    const reach = reachOf(doc, piece, shown);
    return files.flatMap(({ outputId, view }, i) => {
      const output = doc.find('output', outputId);
      const ground = output && groundOf(doc, piece, output);
      const behind = ground ? parseColour(ground) : null;
      if (!output || !behind) return [];
      if (paints === undefined) paints = paintsOf(doc, shown, edition);
      const recolouring = withRule(withRule(AS_DRAWN, rule), output.recolour);
      // What is knocked out paints nothing.
      const colours = (paints ?? [])
        .map((paint) => recolourValue(paint, recolouring))
        .filter((paint) => paint !== 'none')
        .map(parseColour);
      const [first] = colours;
      const paintedAlike = !!first && colours.every((colour) => colour && contrast(colour, behind) < INVISIBLE);
      // What was rendered is what counts; until then, what it is painted with.
      const rendered = seen[i];
      const under = word(behind);
      if (rendered?.box && reach && isMissing(reach, rendered.box, view)) {
        return {
          severity: 'warning' as const,
          outputId,
          message: `part of it cannot be seen on ${under === 'Its colour' ? 'its ground' : under.toLowerCase()}`,
          mend: 'Leave that file out',
        };
      }
      if (rendered?.contrast !== undefined ? rendered.contrast >= INVISIBLE : !paintedAlike) return [];
      const message = paintedAlike
        ? `${word(first)} on ${under === 'Its colour' ? 'nearly the same' : under.toLowerCase()}`
        : 'nothing in it stands out from its ground';
      return { severity: 'warning' as const, outputId, message, mend: 'Leave that file out' };
    });
  },
  mend: (finding, { doc }) => leaveOut(finding, doc),
};
