import { layersOn } from '../arrange/move';
import { eachLeaf } from '../artwork/bounds/bounds';
import { groupBy } from '../basics/group-by';
import type { ProjectDocument } from '../document/document';
import type { Artboard, Layer } from '../document/records';
import { printNumber } from '../geometry/matrix';
import type { Check, Looked } from './check';

/** Fewer pieces are no set, and less agreement is no rule. */
const LEAST_PIECES = 6;
const LEAST_SHARE = 0.75;

/** The value most pieces share, when enough do. */
function rule(values: readonly (string | null)[]): { value: string; count: number } | null {
  const counts = new Map<string, number>();
  const given = values.filter((value): value is string => value !== null);
  for (const value of given) counts.set(value, (counts.get(value) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  return best && given.length >= LEAST_PIECES && best[1] / given.length >= LEAST_SHARE
    ? { value: best[0], count: best[1] }
    : null;
}

const ownArtboard = ({ piece: { record } }: Looked): Artboard | null =>
  record.kind === 'artboard' && !record.follows ? record : null;

/** Answers kept as long as a piece looks the same, so that one edit in a large set costs one answer. */
function remembered(answer: (looked: Looked) => string | null): (looked: Looked) => string | null {
  const known = new WeakMap<Looked, string | null>();
  return (looked) => {
    let value = known.get(looked);
    if (value === undefined) known.set(looked, (value = answer(looked)));
    return value;
  };
}

/** The stroke width that all of a piece has, in px; null when it has none or several. */
const strokeOf = remembered(({ leaves }) => {
  const widths = new Set(leaves.filter((leaf) => leaf.strokePx > 0).map((leaf) => printNumber(leaf.strokePx, 2)));
  return widths.size === 1 ? [...widths][0] : null;
});

/** The corner radius that all rectangles of a piece have; null when it has none or several. */
const radiusOf = remembered(({ leaves }) => {
  const radii = new Set(
    leaves
      .filter((leaf) => leaf.layer.tag === 'rect')
      .map((leaf) => printNumber(Number.parseFloat(leaf.layer.attrs.rx ?? leaf.layer.attrs.ry ?? '0') || 0, 2)),
  );
  return radii.size === 1 ? [...radii][0] : null;
});

const sizeOf = remembered((looked) => {
  const artboard = ownArtboard(looked);
  return artboard && `${printNumber(artboard.width, 3)} × ${printNumber(artboard.height, 3)}`;
});

/** Layers of an artboard with another stroke width, all stroked ones given it. */
function withStroke(doc: ProjectDocument, artboard: Artboard, widthPx: number): Layer[] {
  const puts: Layer[] = [];
  eachLeaf(doc, layersOn(doc, artboard), (leaf) => {
    const { layer, strokePx } = leaf;
    const own = Number.parseFloat(layer.attrs['stroke-width'] ?? '') || null;
    // A stroke as wide as said here times how much the groups grow it.
    const grown = own ? strokePx / own : 1;
    if (strokePx > 0)
      puts.push({ ...layer, attrs: { ...layer.attrs, 'stroke-width': printNumber(widthPx / grown, 4) } });
  });
  return puts;
}

export const setDiffers: Check = {
  name: 'set-differs',
  plural: 'differ from the rest of their set',
  about:
    'In a set of artboards with the same specs, a few differ from the rest in size, stroke width or corner radius.',
  example: 'One icon of 1.5 px lines among forty of 1.75.',
  survey(all) {
    const found: ReturnType<NonNullable<Check['survey']>> = [];
    const sets = groupBy(
      all.filter((looked) => ownArtboard(looked) && looked.files.length > 0),
      ({ piece }) => piece.specIds.join(' '),
    );
    for (const set of sets.values()) {
      const sizes = rule(set.map(sizeOf));
      const strokes = rule(set.map(strokeOf));
      const radii = rule(set.map(radiusOf));
      for (const looked of set) {
        const pieceId = looked.piece.id;
        const [size, stroke, radius] = [sizeOf(looked), strokeOf(looked), radiusOf(looked)];
        if (sizes && size && size !== sizes.value)
          found.push({
            severity: 'warning',
            pieceId,
            message: `${size} where ${sizes.count} of ${set.length} are ${sizes.value}`,
            mend: `Make it ${sizes.value}`,
            about: `size ${sizes.value}`,
          });
        if (strokes && stroke && stroke !== strokes.value)
          found.push({
            severity: 'warning',
            pieceId,
            message: `lines of ${stroke} px where most have ${strokes.value}`,
            mend: `Make them ${strokes.value} px`,
            about: `stroke ${strokes.value}`,
          });
        if (radii && radius && radius !== radii.value)
          found.push({ severity: 'hint', pieceId, message: `corners of ${radius} px where most have ${radii.value}` });
      }
    }
    return found;
  },
  mend({ pieceId, about = '' }, { doc }) {
    const artboard = doc.find('artboard', pieceId);
    if (!artboard) return null;
    const size = /^size ([\d.]+) × ([\d.]+)$/.exec(about);
    if (size) {
      const [width, height] = [Number(size[1]), Number(size[2])];
      // Room is given or taken on all sides alike, by whole px.
      const x = artboard.x - Math.floor((width - artboard.width) / 2);
      const y = artboard.y - Math.floor((height - artboard.height) / 2);
      return {
        label: `make ${artboard.name} ${size[1]} × ${size[2]}`,
        puts: [{ ...artboard, x, y, width, height }],
        removes: [],
      };
    }
    const stroke = /^stroke ([\d.]+)$/.exec(about);
    const puts = stroke ? withStroke(doc, artboard, Number(stroke[1])) : [];
    return puts.length > 0 ? { label: `lines of ${artboard.name} to ${stroke?.[1]} px`, puts, removes: [] } : null;
  },
};
