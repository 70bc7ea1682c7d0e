import fc from 'fast-check';
import { shippedFonts } from '../../render/src/shipped-fonts';
import {
  align,
  alignSteps,
  type Bounds,
  boundsOfLayers,
  changeColour,
  coloursWithin,
  distributeSteps,
  EDGES,
  layerBounds,
  layersAlike,
  mirrorAbout,
  moveInTree,
  newShape,
  newText,
  projectColours,
  REFERENCES,
  ROOT,
  referencePoint,
  resizeTo,
  rotateAbout,
  type ShapeLook,
  siblingsOf,
  snapMove,
  strokesKept,
  textToOutlines,
  textWords,
  toPixelGrid,
  transformLayers,
  withWords,
} from '../src';
import { layerNamed, nearlyEqual, project, refusalOf, snapshot, svg } from './fixtures';
import { runs } from './properties';

const art = () =>
  project({
    a: svg(
      '<g id="turned" transform="rotate(30 12 12) scale(0.5)"><rect id="in" x="4" y="6" width="10" height="4" fill="#f00"/></g><rect id="box" x="2" y="3" width="8" height="5" rx="1" stroke="#00f" stroke-width="2"/><path id="blob" d="M14 14h6v4z" fill="#f00"/><circle id="dot" cx="5" cy="18" r="2" fill="red"/>',
    ),
  }).doc;
const degrees = fc.integer({ min: -720, max: 720 });
const size = fc.double({ min: 0.5, max: 500, noNaN: true });
const names = ['in', 'box', 'blob', 'dot'] as const;

describe('resize, rotate, mirror', () => {
  test('the box gets the width and height asked for, and its reference point stays', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('box', 'blob', 'dot'),
        size,
        size,
        fc.constantFrom(...REFERENCES),
        (name, width, height, reference) => {
          const doc = art();
          const { id } = layerNamed(doc, name);
          // A rectangle keeps its stroke width, which the box counts in.
          const layer = layerNamed(doc, name);
          doc.apply({ puts: [{ ...layer, attrs: { ...layer.attrs, stroke: 'none' } }], removes: [] });
          const bare = layerBounds(doc, id) as Bounds;
          doc.apply({ puts: transformLayers(doc, [id], resizeTo(bare, width, height, reference)), removes: [] });
          const after = layerBounds(doc, id) as Bounds;
          expect(after.maxX - after.minX).toBeCloseTo(width, 4);
          expect(after.maxY - after.minY).toBeCloseTo(height, 4);
          expect(referencePoint(after, reference).x).toBeCloseTo(referencePoint(bare, reference).x, 4);
          expect(referencePoint(after, reference).y).toBeCloseTo(referencePoint(bare, reference).y, 4);
        },
      ),
      runs(60),
    );
  });

  test('a plain rectangle is resized in its own numbers: corners and stroke stay', () => {
    const doc = art();
    const { id } = layerNamed(doc, 'box');
    doc.apply({ puts: transformLayers(doc, [id], [2, 0, 0, 3, 0, 0]), removes: [] });
    expect(layerNamed(doc, 'box')).toMatchObject({
      attrs: { x: '4', y: '9', width: '16', height: '15', rx: '1', 'stroke-width': '2' },
    });
    expect(layerNamed(doc, 'box').transform).toBeUndefined();
  });

  test('a turn and the same turn back is nothing, inside any group', () => {
    fc.assert(
      fc.property(fc.constantFrom(...names), degrees, (name, turn) => {
        const doc = art();
        const { id } = layerNamed(doc, name);
        const before = layerBounds(doc, id) as Bounds;
        doc.apply({ puts: transformLayers(doc, [id], rotateAbout(7, 9, turn)), removes: [] });
        doc.apply({ puts: transformLayers(doc, [id], rotateAbout(7, 9, -turn)), removes: [] });
        nearlyEqual(layerBounds(doc, id), before, 6);
      }),
      runs(60),
    );
  });

  test('four quarter turns, or a mirror twice, leave the very same record', () => {
    const doc = art();
    const before = snapshot(doc);
    const { id } = layerNamed(doc, 'blob');
    for (let i = 0; i < 4; i++) doc.apply({ puts: transformLayers(doc, [id], rotateAbout(10, 10, 90)), removes: [] });
    for (const across of ['horizontally', 'vertically'] as const)
      for (let i = 0; i < 2; i++)
        doc.apply({ puts: transformLayers(doc, [id], mirrorAbout(3, 5, across)), removes: [] });
    expect(snapshot(doc)).toEqual(before);
  });

  test('a size that is none, or a side without length, is refused in words', () => {
    const box = { minX: 0, minY: 0, maxX: 4, maxY: 0 };
    expect(refusalOf(() => resizeTo({ ...box, maxY: 4 }, 0, 4, 'c'))).toMatchObject({ code: 'size.none' });
    expect(refusalOf(() => resizeTo(box, 4, 3, 'c'))).toMatchObject({ code: 'size.flat' });
    expect(resizeTo(box, 8, 0, 'w')[0]).toBe(2);
  });

  test('strokes look as wide as before when that is asked for', () => {
    const { doc } = project({ a: svg('<g id="g" stroke="#000" stroke-width="2"><path id="p" d="M4 4h8v8z"/></g>') });
    const { id } = layerNamed(doc, 'g');
    const scaled = transformLayers(doc, [id], [4, 0, 0, 4, 0, 0]);
    doc.apply({ puts: strokesKept(doc, scaled, 4), removes: [] });
    const bare = { minX: 16, minY: 16, maxX: 48, maxY: 48 };
    const box = layerBounds(doc, id) as Bounds;
    // Half of 2 px beyond the outline, more where mitres stick out.
    expect(box.minY).toBeCloseTo(bare.minY - 1);
    expect(layerNamed(doc, 'p').attrs['stroke-width']).toBe('0.5');
  });

  test('locked layers stay', () => {
    const doc = art();
    doc.apply({ puts: [{ ...layerNamed(doc, 'dot'), locked: true }], removes: [] });
    expect(transformLayers(doc, [layerNamed(doc, 'dot').id], rotateAbout(0, 0, 10))).toEqual([]);
  });
});

describe('align and distribute', () => {
  const boxes = fc.array(
    fc
      .record({
        x: fc.double({ min: -500, max: 500, noNaN: true }),
        y: fc.double({ min: -500, max: 500, noNaN: true }),
        w: size,
        h: size,
      })
      .map(({ x, y, w, h }) => ({ minX: x, minY: y, maxX: x + w, maxY: y + h })),
    { minLength: 3, maxLength: 12 },
  );
  const moved = (box: Bounds, { dx, dy }: { dx: number; dy: number }): Bounds => ({
    minX: box.minX + dx,
    maxX: box.maxX + dx,
    minY: box.minY + dy,
    maxY: box.maxY + dy,
  });

  test('aligned twice is aligned once; nothing leaves the frame it started in', () => {
    fc.assert(
      fc.property(boxes, fc.constantFrom(...EDGES), (list, edge) => {
        const placed = list.map((box, i) => ({ id: String(i), box }));
        const frame = {
          minX: Math.min(...list.map((b) => b.minX)),
          minY: Math.min(...list.map((b) => b.minY)),
          maxX: Math.max(...list.map((b) => b.maxX)),
          maxY: Math.max(...list.map((b) => b.maxY)),
        };
        const once = alignSteps(placed, edge, () => frame).map((step, i) => ({
          id: step.id,
          box: moved(list[i], step),
        }));
        for (const step of alignSteps(once, edge, () => frame))
          expect(Math.abs(step.dx) + Math.abs(step.dy)).toBeLessThan(1e-9);
        for (const { box } of once) {
          expect(box.minX).toBeGreaterThanOrEqual(frame.minX - 1e-9);
          expect(box.maxY).toBeLessThanOrEqual(frame.maxY + 1e-9);
        }
      }),
    );
  });

  test('distributed: all gaps are equal, the outer two stay', () => {
    fc.assert(
      fc.property(boxes, fc.constantFrom('across' as const, 'down' as const), (list, axis) => {
        const steps = distributeSteps(
          list.map((box, i) => ({ id: String(i), box })),
          axis,
        );
        const after = steps.map((step) => moved(list[Number(step.id)], step));
        const gaps = after
          .slice(1)
          .map((box, i) => (axis === 'across' ? box.minX - after[i].maxX : box.minY - after[i].maxY));
        for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0], 6);
        expect(steps[0].dx + steps[0].dy).toBeCloseTo(0);
      }),
    );
    expect(distributeSteps([{ id: 'a', box: { minX: 0, minY: 0, maxX: 1, maxY: 1 } }], 'across')).toEqual([]);
  });

  test('to the artboard: each goes to the middle of its own', () => {
    const { doc, artboard } = project({
      a: svg('<rect id="r" x="1" y="2" width="4" height="4"/>'),
      b: svg('<rect id="s" x="9" y="3" width="6" height="6"/>'),
    });
    const ids = ['r', 's'].map((name) => layerNamed(doc, name).id);
    doc.apply({ puts: align(doc, ids, 'centre', 'artboard'), removes: [] });
    doc.apply({ puts: align(doc, ids, 'middle', 'artboard'), removes: [] });
    for (const [name, board] of [
      ['r', 'a'],
      ['s', 'b'],
    ]) {
      const box = layerBounds(doc, layerNamed(doc, name).id) as Bounds;
      const { x, y, width, height } = artboard(board);
      expect((box.minX + box.maxX) / 2).toBeCloseTo(x + width / 2);
      expect((box.minY + box.maxY) / 2).toBeCloseTo(y + height / 2);
    }
  });

  test('to the pixel grid, by less than half a px, and again is nothing', () => {
    const { doc } = project({ a: svg('<rect id="r" x="1.3" y="2.6" width="4" height="4"/>') });
    const { id } = layerNamed(doc, 'r');
    doc.apply({ puts: toPixelGrid(doc, [id]), removes: [] });
    nearlyEqual(layerBounds(doc, id), { minX: 1, minY: 3, maxX: 5, maxY: 7 });
    expect(toPixelGrid(doc, [id])).toEqual([]);
  });
});

describe('snapping', () => {
  const box = { minX: 0, minY: 0, maxX: 10, maxY: 10 };
  const other = { minX: 50, minY: 100, maxX: 70, maxY: 120 };
  test('an edge within reach meets an edge, and a guide shows where', () => {
    expect(snapMove(box, 38.6, 200.4, [other], 3)).toEqual({
      dx: 40,
      dy: 200,
      guides: [{ axis: 'x', at: 50, from: 100, to: 210 }],
    });
  });
  test('middles meet middles; out of reach, steps are whole px', () => {
    expect(snapMove(box, 54, 104, [other], 3)).toMatchObject({ dx: 55, dy: 105 });
    expect(snapMove(box, 20.3, 20.7, [other], 3)).toEqual({ dx: 20, dy: 21, guides: [] });
  });
  test('never further than the reach from where the hand is', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -200, max: 200, noNaN: true }),
        fc.double({ min: -200, max: 200, noNaN: true }),
        fc.double({ min: 1, max: 8, noNaN: true }),
        (dx, dy, reach) => {
          const snapped = snapMove(box, dx, dy, [other], reach);
          expect(Math.abs(snapped.dx - dx)).toBeLessThanOrEqual(reach);
          expect(Math.abs(snapped.dy - dy)).toBeLessThanOrEqual(reach);
        },
      ),
    );
  });
});

describe('shapes and text', () => {
  const look: ShapeLook = { fill: '#0c6a53', stroke: 'none', strokeWidth: 2, radiusPx: 3, corners: 6 };
  test('each draws inside its region and to its edges', () => {
    const { doc } = project({});
    for (const kind of ['rectangle', 'ellipse', 'polygon'] as const) {
      const shape = newShape(doc, kind, { x: 10, y: 20, width: 40, height: 30 }, look);
      doc.apply({ puts: [shape], removes: [] });
      const box = layerBounds(doc, shape.id) as Bounds;
      expect(box.minY).toBeCloseTo(20);
      expect(box.maxY).toBeCloseTo(50);
      expect(box.minX).toBeGreaterThanOrEqual(10 - 1e-6);
    }
    const line = newShape(doc, 'line', { x: 0, y: 0, width: 10, height: 10 }, look, true);
    expect(line.attrs).toMatchObject({ x1: '0', y1: '10', x2: '10', y2: '0', stroke: '#0c6a53', fill: 'none' });
  });
  test('no size and two corners are refused', () => {
    const { doc } = project({});
    expect(refusalOf(() => newShape(doc, 'ellipse', { x: 0, y: 0, width: 0, height: 5 }, look)).code).toBe(
      'shape.size',
    );
    expect(
      refusalOf(() => newShape(doc, 'polygon', { x: 0, y: 0, width: 5, height: 5 }, { ...look, corners: 2 })).code,
    ).toBe('shape.corners');
  });
  test('words go in and come out, line for line', () => {
    const { doc } = project({});
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[A-Za-zäöü0-9 ,.]{0,20}[a-z]$/), { minLength: 1, maxLength: 5 }),
        (lines) => {
          const layer = newText(doc, lines.join('\n'), 4, 20, {
            family: 'Schibsted Grotesk',
            weight: 400,
            sizePx: 16,
            fill: '#000',
          });
          expect(textWords(layer)).toBe(lines.join('\n'));
          expect(textWords(withWords(layer, 'other\nwords'))).toBe('other\nwords');
        },
      ),
    );
  });
  test('outlined text covers what the letters covered, under the same id', () => {
    const { doc } = project({});
    const fonts = shippedFonts(__filename);
    const text = newText(doc, 'kelp\nbay', 4, 20, {
      family: 'Schibsted Grotesk',
      weight: 400,
      sizePx: 16,
      fill: '#0c6a53',
    });
    doc.apply({ puts: [text], removes: [] });
    const { change, missing } = textToOutlines(doc, [text], fonts);
    doc.apply(change);
    expect(missing).toEqual([]);
    expect(doc.find('layer', text.id)).toMatchObject({ tag: 'g', attrs: { fill: '#0c6a53' } });
    expect(doc.children(text.id).map((layer) => layer.tag)).toEqual(['path', 'path']);
    const box = boundsOfLayers(doc, [text.id]) as Bounds;
    expect(box.minX).toBeGreaterThan(3.5);
    expect(box.maxY).toBeGreaterThan(20 + 16 * 1.25);
    expect(box.maxY).toBeLessThan(20 + 16 * 1.25 + 6);
  });
});

describe('colours and what looks alike', () => {
  test('the project’s colours, the most used first, whatever way they were written', () => {
    expect(projectColours(art()).slice(0, 1)).toEqual([{ colour: '#ff0000', uses: 3 }]);
  });
  test('one colour becomes another everywhere, alpha kept, and undo brings all back', () => {
    const { doc } = project({
      a: svg(
        '<defs><linearGradient id="g"><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></linearGradient></defs><rect fill="url(#g)" width="9" height="9"/><rect id="half" fill="#ff000080" width="5" height="5"/>',
      ),
    });
    doc.apply({ puts: [{ ...doc.list('artboard')[0], background: '#ff0000' }], removes: [] });
    const before = snapshot(doc);
    const undo = doc.apply(changeColour(doc, '#ff0000', '#00aa55'));
    const paints = doc
      .list('layer')
      .flatMap((layer) => [layer.attrs['stop-color'], layer.attrs.fill])
      .filter((value) => value && !value.startsWith('url'));
    expect(paints.sort()).toEqual(['#00aa55', '#00aa5580', '#00f']);
    expect(doc.list('artboard')[0].background).toBe('#00aa55');
    expect(projectColours(doc).some(({ colour }) => colour === '#ff0000')).toBe(false);
    doc.apply(undo);
    expect(snapshot(doc)).toEqual(before);
  });
  test('within layers: what is in them and gradients of their own, not what others use too', () => {
    const gradient = (id: string) =>
      `<linearGradient id="${id}"><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></linearGradient>`;
    const { doc } = project({
      a: svg(
        `<defs>${gradient('own')}${gradient('shared')}</defs><g id="in"><rect fill="url(#own)" width="9" height="9"/><rect fill="url(#shared)" width="9" height="9"/><rect fill="#f00" width="5" height="5"/></g><rect id="out" fill="url(#shared)" stroke="#f00" width="5" height="5"/>`,
      ),
    });
    const { id } = layerNamed(doc, 'in');
    expect(coloursWithin(doc, [id])).toEqual([
      { colour: '#ff0000', uses: 2 },
      { colour: '#0000ff', uses: 1 },
    ]);
    const total = projectColours(doc).find(({ colour }) => colour === '#ff0000')?.uses ?? 0;
    doc.apply(changeColour(doc, '#ff0000', '#00aa55', [id]));
    expect(coloursWithin(doc, [id])[0]).toEqual({ colour: '#00aa55', uses: 2 });
    expect(projectColours(doc).find(({ colour }) => colour === '#ff0000')?.uses).toBe(total - 2);
    expect(layerNamed(doc, 'out').attrs.stroke).toBe('#f00');
  });
  test('alike by fill, by stroke and by size; siblings', () => {
    const doc = art();
    const nameOf = (id: string) => doc.find('layer', id)?.name;
    expect(
      layersAlike(doc, [layerNamed(doc, 'blob').id], 'fill')
        .map(nameOf)
        .sort(),
    ).toEqual(['blob', 'dot', 'in']);
    expect(layersAlike(doc, [layerNamed(doc, 'box').id], 'stroke').map(nameOf)).toEqual(['box']);
    expect(layersAlike(doc, [layerNamed(doc, 'dot').id], 'size').map(nameOf)).toEqual(['dot']);
    expect(siblingsOf(doc, [layerNamed(doc, 'dot').id]).map(nameOf)).toEqual(['turned', 'box', 'blob', 'dot']);
  });
});

describe('moving in the tree', () => {
  test('into a turned group and out again, everything keeps its place and paint', () => {
    const doc = art();
    const places = () => names.map((name) => layerBounds(doc, layerNamed(doc, name).id));
    const before = places();
    doc.apply({
      puts: moveInTree(
        doc,
        [layerNamed(doc, 'dot').id, layerNamed(doc, 'box').id],
        layerNamed(doc, 'turned').id,
        layerNamed(doc, 'in').id,
      ),
      removes: [],
    });
    expect(doc.children(layerNamed(doc, 'turned').id).map((layer) => layer.name)).toEqual(['in', 'box', 'dot']);
    places().forEach((box, i) => nearlyEqual(box, before[i], 6));
    doc.apply({ puts: moveInTree(doc, [layerNamed(doc, 'dot').id], ROOT, null), removes: [] });
    expect(doc.children(ROOT)[0].name).toBe('dot');
    places().forEach((box, i) => nearlyEqual(box, before[i], 6));
  });
  test('a group never comes to lie inside itself, and only groups hold layers', () => {
    const doc = art();
    expect(
      refusalOf(() => moveInTree(doc, [layerNamed(doc, 'turned').id], layerNamed(doc, 'turned').id, null)).code,
    ).toBe('tree.ring');
    expect(refusalOf(() => moveInTree(doc, [layerNamed(doc, 'dot').id], layerNamed(doc, 'box').id, null)).code).toBe(
      'tree.home',
    );
  });
});
