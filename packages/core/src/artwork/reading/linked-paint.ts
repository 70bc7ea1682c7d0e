import { printNumber } from '../../geometry/matrix';
import { parseColour, printColour, type Rgba } from '../colour/colours';
import type { Tell } from '../markup/told';
import { isElement, type XmlElement } from '../markup/xml';

/** Attributes that a gradient, pattern or filter takes from what its `href` points at, where it has none (SVG 2 §14.1). */
const OF_GRADIENTS = ['gradientUnits', 'gradientTransform', 'spreadMethod', 'color-interpolation'];
const TAKEN: Record<string, readonly string[]> = {
  linearGradient: [...OF_GRADIENTS, 'x1', 'y1', 'x2', 'y2'],
  radialGradient: [...OF_GRADIENTS, 'cx', 'cy', 'r', 'fx', 'fy', 'fr'],
  pattern: [
    'x',
    'y',
    'width',
    'height',
    'viewBox',
    'preserveAspectRatio',
    'patternUnits',
    'patternContentUnits',
    'patternTransform',
  ],
};
const LONGEST_CHAIN = 50;
const isGradient = (tag: string) => /^(linear|radial)Gradient$/.test(tag);

/**
 * A definition that no longer points at another one: attributes and content that it took by `href` are its own, and
 * the stops of a gradient say their colours. Others come back as they are.
 */
export function withoutLinks(
  node: XmlElement,
  find: (id: string) => XmlElement | undefined,
  comesDown: (node: XmlElement, name: string) => string | undefined,
  tell: Tell,
): XmlElement {
  const taken = TAKEN[node.tag];
  if (!taken) return node;
  const attrs = { ...node.attrs };
  let content: XmlElement = node;
  const seen = new Set([node]);
  const hasContent = (at: XmlElement) =>
    at.children.some((child) => isElement(child) && (isGradient(at.tag) ? child.tag === 'stop' : true));
  for (let at = node; seen.size < LONGEST_CHAIN; ) {
    const href = (at.attrs.href ?? at.attrs['xlink:href'] ?? '').trim();
    if (href && !href.startsWith('#')) tell('a reference to something outside the file');
    const next = find(href.slice(1));
    if (!next || seen.has(next) || (isGradient(node.tag) ? !isGradient(next.tag) : next.tag !== node.tag)) break;
    seen.add(next);
    for (const name of taken) if (!(name in attrs) && name in next.attrs) attrs[name] = next.attrs[name];
    if (!hasContent(content)) content = next;
    at = next;
  }
  delete attrs.href;
  delete attrs['xlink:href'];
  if (!isGradient(node.tag)) return { ...node, attrs, children: content.children };
  let stops = content.children
    .filter((child): child is XmlElement => isElement(child) && child.tag === 'stop')
    .map((stop) => settled(stop, comesDown));
  if (/^linearrgb$/i.test(attrs['color-interpolation'] ?? comesDown(node, 'color-interpolation') ?? ''))
    stops = inLinearLight(stops);
  for (const name of ['color-interpolation', 'stop-color', 'stop-opacity']) delete attrs[name];
  if (node.tag === 'radialGradient') stops = withoutInnerRadius(attrs, stops, tell);
  return { ...node, attrs, children: stops };
}

/** A stop that says its colour. Where nothing around it gives `currentColor` a meaning, whoever shows the file does. */
function settled(stop: XmlElement, comesDown: (node: XmlElement, name: string) => string | undefined): XmlElement {
  const colour = /^currentcolor$/i.test(stop.attrs['stop-color'] ?? '') ? comesDown(stop, 'color') : undefined;
  return colour && !/^currentcolor$/i.test(colour) ? { ...stop, attrs: { ...stop.attrs, 'stop-color': colour } } : stop;
}

const placeOf = (stop: XmlElement): number => {
  const text = stop.attrs.offset ?? '0';
  const value = Number.parseFloat(text) / (text.trim().endsWith('%') ? 100 : 1);
  return Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : 0;
};

/** Stops set so close that a line between them is the curve of light (SVG 2 §13.9, `color-interpolation`). */
const STEPS = 12;

function inLinearLight(stops: readonly XmlElement[]): XmlElement[] {
  const toLight = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
  const fromLight = (value: number) => (value <= 0.0031308 ? value * 12.92 : 1.055 * value ** (1 / 2.4) - 0.055);
  const read = (stop: XmlElement): Rgba => {
    const colour = parseColour(stop.attrs['stop-color'] ?? '#000') ?? { r: 0, g: 0, b: 0, a: 1 };
    const opacity = Number.parseFloat(stop.attrs['stop-opacity'] ?? '1');
    return { ...colour, a: colour.a * (Number.isFinite(opacity) ? opacity : 1) };
  };
  if (stops.some((stop) => /^currentcolor$/i.test(stop.attrs['stop-color'] ?? ''))) return [...stops];
  return stops.flatMap((stop, i): XmlElement[] => {
    const next = stops[i + 1];
    if (!next || placeOf(next) <= placeOf(stop)) return [stop];
    const [a, b] = [read(stop), read(next)];
    const between: XmlElement[] = [];
    for (let step = 1; step < STEPS; step++) {
      const t = step / STEPS;
      const mix = (from: number, to: number) =>
        Math.round(255 * fromLight(toLight(from / 255) * (1 - t) + toLight(to / 255) * t));
      const colour = printColour({ r: mix(a.r, b.r), g: mix(a.g, b.g), b: mix(a.b, b.b), a: 1 });
      const offset = placeOf(stop) + (placeOf(next) - placeOf(stop)) * t;
      between.push({
        tag: 'stop',
        foreign: false,
        children: [],
        attrs: {
          offset: printNumber(offset),
          'stop-color': colour,
          'stop-opacity': printNumber(a.a * (1 - t) + b.a * t, 4),
        },
      });
    }
    return [stop, ...between];
  });
}

/** `fr` as stops that begin further out, since not every renderer knows it. Exact where the circles have one centre and the ends are padded. */
function withoutInnerRadius(attrs: Record<string, string>, stops: readonly XmlElement[], tell: Tell): XmlElement[] {
  const share = (text: string | undefined, otherwise: number) =>
    text === undefined ? otherwise : Number.parseFloat(text) / (text.trim().endsWith('%') ? 100 : 1);
  const [inner, outer] = [share(attrs.fr, 0), share(attrs.r, 0.5)];
  if (!(inner > 0)) return [...stops];
  const centred =
    (attrs.fx === undefined || attrs.fx === attrs.cx) && (attrs.fy === undefined || attrs.fy === attrs.cy);
  if (!centred || (attrs.spreadMethod ?? 'pad') !== 'pad' || !(outer > inner)) {
    tell('a radial gradient with an inner circle, which pictures draw without it');
    return [...stops];
  }
  delete attrs.fr;
  return stops.map((stop) => ({
    ...stop,
    attrs: { ...stop.attrs, offset: printNumber((inner + placeOf(stop) * (outer - inner)) / outer) },
  }));
}
