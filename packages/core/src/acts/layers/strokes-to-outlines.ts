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
import {
  FILL_ATTRIBUTES,
  GEOMETRY_ATTRIBUTES,
  isBeyondOutline,
  LINE_ATTRIBUTES,
  strokeReach,
} from '../../outlines/shape-attributes';
import { SHAPES } from '../../profile/allow-list';
import { referred } from '../../profile/references';
import { defineAct, type OutlineJob } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { drawnOutlines, outlineIn } from './drawn-outlines';

/** The longest side of a drawing that is outlined, in px. */
const SIDE_PX = { least: 16, most: 4000 };

/** A shape with a stroke and all that its groups say of it. */
type Stroked = { layer: Layer; attrs: Readonly<Record<string, string>> };

/** Shapes among layers and in groups among them whose stroke can be an outline: painted with a colour, as wide as its shape says. */
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
  const line = Object.fromEntries(LINE_ATTRIBUTES.flatMap((name) => (name in attrs ? [[name, attrs[name]]] : [])));
  const shape: TreeNode = {
    tag: layer.tag,
    attrs: {
      ...pick(layer.attrs, GEOMETRY_ATTRIBUTES),
      ...line,
      fill: 'none',
      stroke: '#000000',
      'stroke-opacity': '1',
    },
    children: [],
  };
  const [widthPx, heightPx] = [wide, high].map((length) => +((length * side) / longest).toFixed(3));
  return [
    {
      id: layer.id,
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

const pick = (attrs: Readonly<Record<string, string>>, names: readonly string[]) =>
  Object.fromEntries(Object.entries(attrs).filter(([name]) => names.includes(name)));
const without = (attrs: Readonly<Record<string, string>>, names: readonly string[]) =>
  Object.fromEntries(Object.entries(attrs).filter(([name]) => !names.includes(name)));

/** A layer as what it shows without a stroke: its outline, or a group of its fill and that. */
function outlined({ layer, attrs }: Stroked, d: string): Layer[] {
  const { stroke, 'stroke-opacity': opacity = '1' } = attrs;
  const paint = { fill: stroke, ...(opacity === '1' ? {} : { 'fill-opacity': opacity }), stroke: 'none' };
  const place = without(layer.attrs, [...LINE_ATTRIBUTES, ...FILL_ATTRIBUTES, ...GEOMETRY_ATTRIBUTES]);
  const { tag, attrs: own, ...common } = layer;
  const box = boxIn({ tag, attrs: own, children: [] });
  // A line encloses nothing.
  const isFilled = (attrs.fill ?? '#000000') !== 'none' && !!box && box.maxX > box.minX && box.maxY > box.minY;
  if (!isFilled) return d ? [{ ...common, tag: 'path', attrs: { ...place, ...paint, d } }] : [];
  const fill = { ...without(own, LINE_ATTRIBUTES), stroke: 'none' };
  if (!d) return [{ ...layer, attrs: fill }];
  const parts = [
    {
      tag,
      attrs: pick(fill, [
        ...GEOMETRY_ATTRIBUTES,
        ...FILL_ATTRIBUTES.filter((name) => name !== 'paint-order'),
        'stroke',
      ]),
    },
    { tag: 'path' as const, attrs: { ...paint, d } },
  ];
  if (/^stroke/.test(attrs['paint-order'] ?? '')) parts.reverse();
  const orders = ordersAfter(null, parts.length);
  return [
    { ...common, tag: 'g', attrs: place },
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
    puts: strokedIn(doc, selection)
      .filter((stroked) => jobOf(doc, stroked).length > 0)
      .flatMap((stroked) => outlined(stroked, outlineIn(outlines, stroked.layer.id, layerTitle(stroked.layer)))),
    removes: [],
  }),
});
