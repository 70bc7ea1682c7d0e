import {
  artworkIndex,
  crispness,
  edgesIn,
  type FitWidths,
  fittedEdges,
  type Layer,
  type ProjectDocument,
} from '../src';
import { layerToPlane } from '../src/artwork/bounds/bounds';
import { pathSegments } from '../src/geometry/path-geometry';
import { shapePath } from '../src/geometry/shape-path';
import { project, svg } from './fixtures';

const drawn = (inner: string) => project({ icon: svg(inner) }).doc;
const board = (doc: ProjectDocument) => doc.list('artboard')[0];
const gridOf = (side: number) => ({ view: { x: 0, y: 0, width: 24, height: 24 }, widthPx: side, heightPx: side });
const share = (doc: ProjectDocument, side: number) =>
  crispness(edgesIn(doc, artworkIndex(doc).leaves), gridOf(side)).share;
const fit = (doc: ProjectDocument, side = 24, widths: FitWidths = 'whole') =>
  fittedEdges(doc, board(doc), gridOf(side), widths);
/** Fits a drawing and answers its layers, and how crisp it is in the end. */
function fitted(inner: string, side = 24, widths: FitWidths = 'whole') {
  const doc = drawn(inner);
  const found = fit(doc, side, widths);
  if (found) doc.apply({ puts: found.layers, removes: [] });
  return { doc, found, share: share(doc, side), layers: doc.list('layer').filter(({ tag }) => tag !== 'g') };
}
const attrsOf = (inner: string, side = 24, widths: FitWidths = 'whole') =>
  fitted(inner, side, widths).layers.map(({ attrs }) => attrs);

test('a bar whose width is none of whole px gets one, and lies on pixels', () => {
  expect(attrsOf('<rect x="3.37" y="4.3" width="17.3" height="2.2"/>')).toMatchObject([
    { x: '3', y: '4', width: '18', height: '2' },
  ]);
  expect(fitted('<rect x="3.37" y="4.3" width="17.3" height="2.2"/>').share).toBe(1);
});

test('equal bars stay equal, and so do equal gaps between them', () => {
  const bars = [2.2, 7.1, 12, 16.9].map((x) => `<rect x="${x}" y="3" width="1.7" height="18"/>`).join('');
  const { layers, share: crisp } = fitted(bars);
  expect(crisp).toBe(1);
  expect(new Set(layers.map(({ attrs }) => attrs.width)).size).toBe(1);
  const places = layers.map(({ attrs }) => Number(attrs.x));
  expect(new Set(places.slice(1).map((x, i) => +(x - places[i]).toFixed(3))).size).toBe(1);
});

test('a circle stays one, a frame keeps its corners, a mirrored drawing stays mirrored', () => {
  const [disc] = fitted('<circle cx="12" cy="12" r="8.8"/>').layers;
  expect(disc).toMatchObject({ tag: 'circle', attrs: { cx: '12', cy: '12', r: '9' } });
  const bars = '<rect x="3.37" y="8.3" width="17.3" height="2.2"/><path d="M6 12.4h2.6v8H6z"/>';
  const [, , small] = fitted(`${bars}<circle cx="16.2" cy="16.2" r="3.6"/>`).layers;
  expect(small).toMatchObject({ tag: 'circle', attrs: { r: '3.5' } });
  const [frame] = attrsOf('<rect x="3.3" y="5.3" width="17.4" height="13.4" rx="2.5" stroke="#000" fill="none"/>');
  expect(frame).toMatchObject({ x: '3.5', y: '5.5', width: '17', height: '13', rx: '2.5' });
  const both = '<path d="M3.3 3h2.1v18h-2.1z"/><path d="M18.6 3h2.1v18h-2.1z"/>';
  expect(attrsOf(both)).toMatchObject([{ d: 'M3 3L5 3L5 21L3 21Z' }, { d: 'M19 3L21 3L21 21L19 21Z' }]);
});

test('strokes get whole widths at the size that is asked for, unless they are kept or thinner than half a px', () => {
  const line = '<path d="M4 12H20" stroke="#000" stroke-width="1.5" fill="none"/>';
  expect(attrsOf(line, 16)[0]['stroke-width']).toBe('1.5');
  expect(attrsOf(line, 20)[0]['stroke-width']).toBe('1.2');
  expect(fitted(line, 16).share).toBe(1);
  const wide = '<path d="M4 12.1H20" stroke="#000" stroke-width="1.8" fill="none"/>';
  expect(attrsOf(wide)[0]).toMatchObject({ d: 'M4 12L20 12', 'stroke-width': '2' });
  expect(attrsOf(wide, 24, 'kept')[0]['stroke-width']).toBe('1.8');
  expect(attrsOf('<path d="M4 12H20" stroke="#000" stroke-width=".4" fill="none"/>')[0]['stroke-width']).toBe('0.4');
});

test('a dot grows with its stroke, so that it has no hole', () => {
  const [, dot] = attrsOf(
    '<path d="M4 6H20" stroke="#000" stroke-width="2"/><circle cx="12" cy="17" r="1" stroke="#000" stroke-width="2"/>',
    20,
  );
  expect(dot).toMatchObject({ r: '1.2', 'stroke-width': '2.4' });
});

test('what lies between is carried along: text and turned shapes as a whole, curves without a kink', () => {
  const { layers, doc } = fitted(
    '<path d="M3.4 3.4H20.6V20.6H3.4z"/><rect x="10" y="10" width="4" height="4" transform="rotate(45 12 12)"/><path d="M5 12C5 8 8 6 12 6.5S18 9 19 13"/>',
  );
  expect(layers[1].attrs).toMatchObject({ x: '10', y: '10', width: '4', height: '4' });
  for (const layer of layers) expect(layerToPlane(doc, layer).every(Number.isFinite)).toBe(true);
  const [{ segments }] = pathSegments(layers[2].attrs.d);
  const [, , , , ax, ay, bx, by] = segments[0];
  const [, , cx, cy] = segments[1];
  const turn = (bx - ax) * (cy - by) - (by - ay) * (cx - bx);
  expect(Math.abs(turn) / Math.hypot(bx - ax, by - ay) / Math.hypot(cx - bx, cy - by)).toBeLessThan(1e-3);
});

test.each([
  ['no straight edges', '<path d="M12 3L21 12L12 21L3 12Z"/>'],
  ['letters', '<text x="3" y="12">Hi</text>'],
  ['a turned bar', '<rect x="3" y="4" width="18" height="2" transform="rotate(30 12 12)"/>'],
  ['crisp already', '<rect x="3" y="4" width="18" height="2"/>'],
  ['nothing', '<g/>'],
  ['a matrix that flattens', '<rect x="3.3" y="4.3" width="18" height="2" transform="scale(0 1)"/>'],
])('there is nothing to fit: %s', (_, inner) => expect(fit(drawn(inner))).toBeNull());

test.each([
  ['far away numbers', '<path d="M1e9 1e9h3.3v1e9z"/><rect x="-1e7" y="3.3" width="2e7" height="2.2"/>'],
  ['a path of no length', '<path d="M3.3 3.3h0v0z" stroke="#000"/><path d="M3.3 3.3L"/><path d="M4.4 4"/>'],
  [
    'a mirrored and a slanted group',
    '<g transform="matrix(-1 0 0 1 24 0)"><rect x="3.3" y="3" width="4.4" height="9"/></g><g transform="skewX(20)"><circle cx="9" cy="9" r="3.3"/></g>',
  ],
  ['parts after a closed one', '<path d="M3.3 3.3h4.4v4.4z l8 0 v6.6"/>'],
  ['lines upon lines', Array.from({ length: 900 }, (_, i) => `<path d="M${i * 0.026} 2v${i % 20}h.31z"/>`).join('')],
])('odd drawings are fitted to a drawing that is drawn, or left: %s', (_, inner) => {
  const doc = drawn(inner);
  const was = share(doc, 24) ?? 0;
  const found = fit(doc);
  if (!found) return;
  for (const { attrs } of found.layers) expect(Object.values(attrs).join(' ')).not.toMatch(/NaN|Infinity|undefined/);
  doc.apply({ puts: found.layers, removes: [] });
  expect(share(doc, 24)).toBeGreaterThan(was);
});

/** A random drawing: bars, frames, rings, lines and curves, some of equal widths, some grouped and scaled. */
function random(seed: number): string {
  let state = seed * 7919 + 1;
  const next = () => (state = (state * 16807) % 2147483647) / 2147483647;
  const any = (from: number, to: number) => +(from + next() * (to - from)).toFixed(2);
  const stroke = [1, 1.5, 1.7, 2][Math.floor(next() * 4)];
  const width = any(1, 3);
  const shapes = Array.from({ length: 1 + Math.floor(next() * 6) }, () => {
    const [x, y] = [any(1, 14), any(1, 14)];
    return [
      `<rect x="${x}" y="${y}" width="${width}" height="${any(3, 8)}"/>`,
      `<rect x="${x}" y="${y}" width="${any(3, 8)}" height="${width}" rx=".7"/>`,
      `<circle cx="${x + 3}" cy="${y + 3}" r="${any(1.5, 5)}" stroke="#000" stroke-width="${stroke}" fill="none"/>`,
      `<path d="M${x} ${y}h${any(3, 8)}v${any(3, 8)}" stroke="#000" stroke-width="${stroke}" stroke-linecap="round" fill="none"/>`,
      `<path d="M${x} ${y}v6a2.5 2.5 0 0 0 5 0v-6z"/>`,
      `<g transform="translate(${x} ${y}) scale(.5)"><path d="M0 0h${any(6, 14)}v${width * 2}h-5v6h-4z"/></g>`,
      `<polygon points="${x},${y} ${x + 5},${y} ${x + 5},${y + 4.3} ${x + 2},${y + 7}"/>`,
    ][Math.floor(next() * 7)];
  });
  return shapes.join('');
}

const shapeOf = ({ tag, attrs }: Layer) => pathSegments(shapePath(tag, attrs)).map(({ closed }) => closed);

test('random drawings: crisper, never softer; nothing moves further than it may; parts, holes and equal widths stay', () => {
  let [fits, gained, sizes] = [0, 0, 0];
  for (let seed = 0; seed < 120; seed++) {
    const side = [16, 20, 24, 32][seed % 4];
    const scale = side / 24;
    const doc = drawn(random(seed));
    const before = doc.list('layer');
    const boxes = artworkIndex(doc).leaves;
    const was = share(doc, side);
    const found = fit(doc, side);
    expect(fit(doc, side)).toEqual(found);
    sizes++;
    if (!found || was === null) continue;
    doc.apply({ puts: found.layers, removes: [] });
    const now = share(doc, side) as number;
    fits++;
    gained += now - was;
    expect({ seed, softer: now < was }).toEqual({ seed, softer: false });
    expect(found.share).toBeCloseTo(now, 6);
    const after = new Map(doc.list('layer').map((layer) => [layer.id, layer]));
    for (const layer of before) expect(shapeOf(after.get(layer.id) as Layer)).toEqual(shapeOf(layer));
    for (const leaf of artworkIndex(doc).leaves) {
      const old = boxes.find(({ layer }) => layer.id === leaf.layer.id);
      if (!old) throw new Error('a layer is new');
      // The middle of a stem by half a px, and its width by half a px: its edges by three quarters of one.
      const most = 0.75 / scale + 0.25 / scale + 1e-3;
      for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const)
        expect({ seed, far: Math.abs(leaf[side] - old[side]) > most && leaf[side] }).toEqual({ seed, far: false });
    }
    // What pokes out is clipped by a rectangle of the artboard's size.
    const isBar = ({ tag, attrs }: Layer) => tag === 'rect' && !attrs.rx && attrs.width !== '24';
    const widths = before.filter(isBar).map(({ id }) => Number(after.get(id)?.attrs.width));
    const apart = widths.some((width) => Math.abs(width - widths[0]) > 0.05);
    expect({ seed, widths, apart }).toMatchObject({ apart: false });
    if (now > 0.999) expect({ seed, again: fit(doc, side)?.share }).toEqual({ seed, again: undefined });
  }
  expect(fits).toBeGreaterThan(sizes * 0.7);
  expect(gained / fits).toBeGreaterThan(0.3);
});
