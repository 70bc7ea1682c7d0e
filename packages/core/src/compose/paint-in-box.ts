import type { Layer } from '../document/records';
import { type Bounds, IDENTITY, multiply, parseTransform, printNumber, printTransform } from '../geometry/matrix';

/**
 * A gradient or pattern that measures by the box of what it paints, said in the user space of that (SVG 2 §14.2, §14.3);
 * null where it measures by no box, or as no other form says. For what is painted in parts, such as text as outlines.
 */
export function paintInBox(layer: Layer, box: Bounds): Layer | null {
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  if (!(width > 0) || !(height > 0)) return null;
  const { attrs } = layer;
  const toBox = (said: string | undefined) =>
    printTransform(multiply([width, 0, 0, height, box.minX, box.minY], parseTransform(said ?? '') ?? IDENTITY)) ||
    'translate(0)';
  switch (layer.tag) {
    case 'linearGradient':
      if (attrs.gradientUnits === 'userSpaceOnUse') return null;
      return withAttrs(layer, { x1: '0', y1: '0', x2: '1', y2: '0' }, toBox(attrs.gradientTransform), 'gradient');
    case 'radialGradient':
      if (attrs.gradientUnits === 'userSpaceOnUse') return null;
      return withAttrs(layer, { cx: '0.5', cy: '0.5', r: '0.5' }, toBox(attrs.gradientTransform), 'gradient');
    case 'pattern': {
      if (attrs.patternUnits === 'userSpaceOnUse') return null;
      if (attrs.patternContentUnits === 'objectBoundingBox' && !attrs.viewBox)
        return withAttrs(layer, { x: '0', y: '0' }, toBox(attrs.patternTransform), 'pattern');
      const share = (name: string) => Number.parseFloat(attrs[name] ?? '0') || 0;
      const place = {
        x: printNumber(box.minX + share('x') * width),
        y: printNumber(box.minY + share('y') * height),
        width: printNumber(share('width') * width),
        height: printNumber(share('height') * height),
      };
      return { ...layer, attrs: { ...attrs, ...place, patternUnits: 'userSpaceOnUse' } };
    }
    default:
      return null;
  }
}

function withAttrs(
  layer: Layer,
  initial: Record<string, string>,
  transform: string,
  kind: 'gradient' | 'pattern',
): Layer {
  const content: Record<string, string> = kind === 'pattern' ? { patternContentUnits: 'userSpaceOnUse' } : {};
  const units = { [`${kind}Units`]: 'userSpaceOnUse', [`${kind}Transform`]: transform };
  return { ...layer, attrs: { ...initial, ...layer.attrs, ...content, ...units } };
}
