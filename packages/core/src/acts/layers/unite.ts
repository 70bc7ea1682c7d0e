import * as z from 'zod';
import { removeLayers, withInherited } from '../../arrange/layers';
import { outermost } from '../../arrange/outermost';
import { boundsOfLayers } from '../../arrange/transform';
import { layerToPlane } from '../../artwork/bounds/bounds';
import { refuse } from '../../basics/problem';
import { printTree, readTree, type TreeNode } from '../../compose/tree';
import { type ProjectDocument, ROOT } from '../../document/document';
import type { Layer } from '../../document/records';
import { IDENTITY, invert, isIdentity, multiply, translate } from '../../geometry/matrix';
import { SHAPES } from '../../profile/allow-list';
import { layersAsSvg } from '../../project/live-svg';
import { defineAct, type OutlineJob } from '../act';
import { nameOfChosen } from '../doing/chosen';
import { drawnOutlines, outlineIn } from './drawn-outlines';

/** What is half transparent, or blends, is one shape like all else. */
const LEFT_OUT = ['id', 'opacity', 'fill-opacity', 'stroke-opacity', 'style'];

/** Everything that a drawing paints, in black. */
function inBlack(node: TreeNode, isDefinition = false): TreeNode {
  const attrs: Record<string, string> = {};
  for (const [name, value] of Object.entries(node.attrs)) {
    if (LEFT_OUT.includes(name) && !(isDefinition && name === 'id')) continue;
    attrs[name] = (name === 'fill' || name === 'stroke') && value !== 'none' ? '#000000' : value;
  }
  const isInside = isDefinition || node.tag === 'defs';
  return { ...node, attrs, children: node.children.map((child) => inBlack(child, isInside)) };
}

function uniteJob(doc: ProjectDocument, ids: ReadonlySet<string>): OutlineJob[] {
  const tops = outermost(doc, ids);
  const front = tops.at(-1);
  for (const id of tops.flatMap((top) => [...doc.descendants(top.id)])) {
    const tag = doc.find('layer', id)?.tag;
    if (tag === 'text') refuse('act.letters', 'letters are no shapes yet: turn the text into outlines first');
    if (tag === 'image') refuse('act.picture', 'a picture has no outline');
  }
  // Names may hold what a composed SVG does not.
  const svg = layersAsSvg(doc, ids, () => undefined)?.replace(/ data-name="[^"]*"/g, '');
  if (!front || !svg) return [];
  const { root } = readTree(svg);
  const [widthPx, heightPx] = [Number(root.attrs.width), Number(root.attrs.height)];
  if (!(widthPx > 0) || !(heightPx > 0)) return [];
  return [{ id: front.id, svg: printTree(inBlack(root)), widthPx, heightPx, shapes: 'united' }];
}

/** Shapes in a layer, the front one first. */
function* frontFirst(doc: ProjectDocument, layer: Layer): Generator<Layer> {
  if (SHAPES.has(layer.tag)) yield layer;
  for (const child of [...doc.children(layer.id)].reverse()) yield* frontFirst(doc, child);
}

/** What the front one among what is drawn is painted with. */
function paintOf(doc: ProjectDocument, layer: Layer): string {
  for (const shape of frontFirst(doc, layer)) {
    const { fill = '#000000', stroke = 'none' } = withInherited(doc, shape, ROOT).attrs;
    if (fill !== 'none') return fill;
    if (stroke !== 'none') return stroke;
  }
  return '#000000';
}

export const unite = defineAct({
  name: 'unite',
  title: 'Unite to one shape',
  group: 'Layers',
  needs: 'layers',
  settings: z.object({ outlines: drawnOutlines }),
  nothing: 'There is nothing to unite',
  outlines: (doc, { selection }) => uniteJob(doc, selection),
  /** The front one becomes all of them, in its colour and under its id; the others go. */
  run: (doc, { selection }, { outlines }) => {
    const label = `unite ${nameOfChosen(doc, selection)}`;
    const tops = outermost(doc, selection);
    const front = tops.at(-1);
    const ids = tops.map(({ id }) => id);
    const box = boundsOfLayers(doc, ids);
    if (!front || !box || uniteJob(doc, selection).length === 0) return { label, puts: [], removes: [] };
    const d = outlineIn(outlines, front.id, 'what is selected');
    if (!d) return { label, puts: [], removes: [] };
    const parent = doc.find('layer', front.parentId);
    const toParent = parent ? invert(layerToPlane(doc, parent)) : IDENTITY;
    const transform = multiply(toParent, translate(box.minX, box.minY));
    const { text: _, transform: __, ...kept } = front;
    const united: Layer = {
      ...kept,
      tag: 'path',
      opacity: 1,
      attrs: { d, fill: paintOf(doc, front), stroke: 'none' },
      ...(isIdentity(transform) ? {} : { transform }),
    };
    return {
      label,
      puts: [united],
      removes: removeLayers(doc, ids).filter((id) => id !== front.id),
      selected: [front.id],
    };
  },
});
