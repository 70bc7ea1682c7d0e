import * as z from 'zod';
import { withInherited } from '../../arrange/layers';
import { layerToPlane } from '../../artwork/bounds/bounds';
import { boxIn } from '../../compose/rasteriser/boxes';
import { printTree, type TreeNode } from '../../compose/tree';
import { type ProjectDocument, ROOT } from '../../document/document';
import { newId } from '../../document/ids';
import { ordersAfter } from '../../document/order';
import { type Layer, layerRecord } from '../../document/records';
import { layerTitle } from '../../document/titles';
import { largestScale } from '../../geometry/matrix';
import { shapePath } from '../../geometry/shape-path';
import { isBeyondOutline, strokeAlone, strokeParts, strokeReach } from '../../outlines/shape-attributes';
import { SHAPES } from '../../profile/allow-list';
import { referred } from '../../profile/references';
import { defineAct, type OutlineJob } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { drawnOutlines, outlineIn } from './drawn-outlines';

/** The longest side of the drawing that is rendered to find an outline, in px. */
const SIDE_PX = { least: 16, most: 4000 };

/** A shape with a stroke, and its attributes with those that it inherits from its groups. */
type Stroked = { layer: Layer; attrs: Readonly<Record<string, string>> };

/** The shapes among the layers, and within groups among them, whose stroke can become an outline: it has one colour, and its width is in units of the shape. */
function strokedIn(doc: ProjectDocument, ids: Iterable<string>): Stroked[] {
  const found = new Map<string, Stroked>();
  for (const id of ids)
    for (const inner of doc.descendants(id)) {
      const layer = doc.find('layer', inner);
      if (!layer || !SHAPES.has(layer.tag)) continue;
      const { attrs } = withInherited(doc, layer, ROOT);
      const { stroke = 'none', 'stroke-width': width = '1' } = attrs;
      if (stroke === 'none' || referred(stroke) !== undefined || !(Number.parseFloat(width) > 0)) continue;
      if (!isBeyondOutline(attrs)) found.set(layer.id, { layer, attrs });
    }
  return [...found.values()];
}

function jobOf(doc: ProjectDocument, { layer, attrs }: Stroked): OutlineJob[] {
  const d = shapePath(layer.tag, layer.attrs);
  const box = boxIn({ tag: layer.tag, attrs: layer.attrs, children: [] });
  if (!d || !box) return [];
  const reach = strokeReach(attrs);
  const [wide, high] = [box.maxX - box.minX + 2 * reach, box.maxY - box.minY + 2 * reach];
  const longest = Math.max(wide, high);
  const side = Math.min(SIDE_PX.most, Math.max(SIDE_PX.least, longest * largestScale(layerToPlane(doc, layer))));
  const shape: TreeNode = { tag: layer.tag, attrs: strokeAlone(layer.attrs, attrs, '#000000'), children: [] };
  const [widthPx, heightPx] = [wide, high].map((length) => +((length * side) / longest).toFixed(3));
  return [
    {
      svg: printTree({
        tag: 'svg',
        attrs: {
          xmlns: 'http://www.w3.org/2000/svg',
          width: `${widthPx}`,
          height: `${heightPx}`,
          viewBox: `${box.minX - reach} ${box.minY - reach} ${wide} ${high}`,
        },
        children: [shape],
      }),
      widthPx,
      heightPx,
      shapes: 'outlined',
    },
  ];
}

/** The records that show what a layer shows without a stroke: one path or shape, or a group of its fill and its outline. */
function outlined({ layer, attrs }: Stroked, d: string): Layer[] {
  const { place, parts } = strokeParts(layer.tag, layer.attrs, attrs, d);
  if (parts.length === 0) return [];
  if (parts.length === 1) return [{ ...layer, tag: parts[0].tag, attrs: { ...place, ...parts[0].attrs } }];
  const orders = ordersAfter(null, parts.length);
  return [
    { ...layer, tag: 'g', attrs: place },
    ...parts.map((part, i) =>
      layerRecord.parse({ id: newId(), kind: 'layer', parentId: layer.id, order: orders[i], ...part }),
    ),
  ];
}

export const strokesToOutlines = defineAct({
  name: 'strokes-to-outlines',
  title: 'Strokes to outlines',
  group: 'Layers',
  needs: 'layers',
  settings: z.object({ outlines: drawnOutlines }),
  nothing: 'Nothing here has a stroke that could be an outline',
  outlines: (doc, { selection }) => strokedIn(doc, selection).flatMap((stroked) => jobOf(doc, stroked)),
  /** Each keeps its id, so that what names it still does. */
  run: (doc, { selection }, { outlines }) => ({
    label: `outline strokes of ${nameOfChosen(doc, selection)}`,
    puts: strokedIn(doc, selection).flatMap((stroked) =>
      jobOf(doc, stroked).flatMap((job) => outlined(stroked, outlineIn(outlines, job, layerTitle(stroked.layer)))),
    ),
    removes: [],
  }),
});
