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

/** Attributes that the united shape ignores: names, opacities and blend modes do not change which area is covered. */
const LEFT_OUT = ['id', 'opacity', 'fill-opacity', 'stroke-opacity', 'style'];

/** The drawing with every paint in black. */
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
  // Layer names may hold characters that `readTree` does not read.
  const svg = layersAsSvg(doc, ids, () => undefined)?.replace(/ data-name="[^"]*"/g, '');
  if (!front || !svg) return [];
  const { root } = readTree(svg);
  const [widthPx, heightPx] = [Number(root.attrs.width), Number(root.attrs.height)];
  if (!(widthPx > 0) || !(heightPx > 0)) return [];
  return [{ svg: printTree(inBlack(root)), widthPx, heightPx, shapes: 'united' }];
}

/** The shapes in a layer, front first. */
function* frontFirst(doc: ProjectDocument, layer: Layer): Generator<Layer> {
  if (SHAPES.has(layer.tag)) yield layer;
  for (const child of [...doc.children(layer.id)].reverse()) yield* frontFirst(doc, child);
}

/** The paint of the front shape in a layer: its fill, or its stroke where it has no fill. */
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
  /** The front layer becomes the united shape, with its colour and its id; the other layers are removed. */
  run: (doc, { selection }, { outlines }) => {
    const label = `unite ${nameOfChosen(doc, selection)}`;
    const tops = outermost(doc, selection);
    const front = tops.at(-1);
    const ids = tops.map(({ id }) => id);
    const box = boundsOfLayers(doc, ids);
    const [job] = uniteJob(doc, selection);
    const d = job && outlineIn(outlines, job, 'what is selected');
    if (!front || !box || !d) return { label, puts: [], removes: [] };
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
