import { type Artboard, type Bounds, Located, type Region, translate } from '@tolvik/core';
import fc from 'fast-check';
import { runs } from '../../core/test/properties';
import { snapped } from '../src/bench/plane/camera';
import { PlaneCache, shiftOf, stretchOf } from '../src/bench/plane/plane-cache';
import type { PlaneView } from '../src/bench/plane/plane-view';
import { NO_PREVIEW, type Preview } from '../src/bench/plane/preview';
import type { Scene } from '../src/bench/plane/scene';
import type { Painter } from '../src/painter/painter';

const WIDTH = 90;
const HEIGHT = 60;
const covers = (
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
  px: number,
  py: number,
) => px >= x && px < x + width && py >= y && py < y + height;

describe('the kept picture of the plane, panned', () => {
  test('every px comes from the frame before or is drawn once, and none lies outside', () => {
    fc.assert(
      fc.property(fc.integer({ min: -45, max: 45 }), fc.integer({ min: -30, max: 30 }), (dx, dy) => {
        const shift = shiftOf({ x: dx / 2, y: dy / 2 }, { x: 0, y: 0 }, 2, WIDTH, HEIGHT);
        if (!shift) throw new Error('it can be shifted');
        expect([shift.dx, shift.dy]).toEqual([dx, dy]);
        for (let py = 0; py < HEIGHT; py++) {
          for (let px = 0; px < WIDTH; px++) {
            const drawn = shift.open.filter((strip) => covers(strip, px, py)).length;
            const kept = covers({ x: dx, y: dy, width: WIDTH, height: HEIGHT }, px, py);
            if (drawn + Number(kept) !== 1) throw new Error(`${px}, ${py} comes from ${drawn + Number(kept)} places`);
          }
        }
        const area = shift.open.reduce((sum, { width, height }) => sum + width * height, 0);
        expect(area).toBe(WIDTH * HEIGHT - (WIDTH - Math.abs(dx)) * (HEIGHT - Math.abs(dy)));
      }),
    );
  });

  test('wherever one pans, a snapped camera moves by whole device px', () => {
    const place = fc.double({ min: -5000, max: 5000, noNaN: true });
    const by = fc.double({ min: -20, max: 20, noNaN: true });
    fc.assert(
      fc.property(
        place,
        place,
        by,
        by,
        fc.double({ min: 0.02, max: 60, noNaN: true }),
        fc.constantFrom(1, 1.25, 1.5, 2, 3),
        (x, y, right, down, scale, dpr) => {
          const from = snapped({ x, y, scale }, dpr);
          const to = snapped({ x: from.x + right / scale, y: from.y + down / scale, scale }, dpr);
          expect(shiftOf(from, to, scale * dpr, 1280, 800)).not.toBeNull();
        },
      ),
    );
  });

  test('nothing moved leaves nothing open', () => {
    expect(shiftOf({ x: 3, y: 4 }, { x: 3, y: 4 }, 1.7, WIDTH, HEIGHT)).toEqual({ dx: 0, dy: 0, open: [] });
  });

  test('between device px, or further than half the view, it is drawn anew', () => {
    expect(shiftOf({ x: 0, y: 0 }, { x: 0.3, y: 0 }, 1, WIDTH, HEIGHT)).toBeNull();
    expect(shiftOf({ x: 0, y: 0 }, { x: 46, y: 0 }, 1, WIDTH, HEIGHT)).toBeNull();
    expect(shiftOf({ x: 0, y: 0 }, { x: 0, y: -31 }, 1, WIDTH, HEIGHT)).toBeNull();
  });
});

describe('the kept picture of the plane, zoomed', () => {
  const looking = (scale: fc.Arbitrary<number>) =>
    fc.record({
      x: fc.double({ min: -40, max: 40, noNaN: true }),
      y: fc.double({ min: -40, max: 40, noNaN: true }),
      scale,
    });

  test('every px lies in the stretched picture or is drawn once, and each point of the plane where it belongs', () => {
    fc.assert(
      fc.property(
        looking(fc.double({ min: 0.5, max: 2, noNaN: true })),
        looking(fc.double({ min: 0.5, max: 2, noNaN: true })),
        fc.constantFrom(1, 1.5, 2),
        (from, to, dpr) => {
          const stretch = stretchOf(from, to, dpr, WIDTH, HEIGHT);
          if (!stretch) return;
          const { place, open } = stretch;
          for (let py = 0; py < HEIGHT; py++) {
            for (let px = 0; px < WIDTH; px++) {
              const drawn = open.filter((part) => covers(part, px, py)).length;
              const kept =
                px >= place.x - 1e-9 &&
                py >= place.y - 1e-9 &&
                px + 1 <= place.x + place.width + 1e-9 &&
                py + 1 <= place.y + place.height + 1e-9;
              if (drawn > 1 || (drawn === 0 && !kept)) throw new Error(`${px}, ${py}: ${drawn} times, kept ${kept}`);
            }
          }
          // A point of the plane is where the picture of before has it, stretched.
          const [was, is] = [(7 - from.x) * from.scale * dpr, (7 - to.x) * to.scale * dpr];
          expect(place.x + (was * place.width) / WIDTH).toBeCloseTo(is, 6);
        },
      ),
    );
  });

  test('too far from what was drawn, or nowhere near it, all is drawn anew', () => {
    const at = { x: 0, y: 0, scale: 1 };
    expect(stretchOf(at, { ...at, scale: 2.01 }, 1, WIDTH, HEIGHT)).toBeNull();
    expect(stretchOf(at, { ...at, scale: 0.49 }, 1, WIDTH, HEIGHT)).toBeNull();
    expect(stretchOf(at, { x: 200, y: 0, scale: 1.2 }, 1, WIDTH, HEIGHT)).toBeNull();
    expect(stretchOf(at, at, 1, WIDTH, HEIGHT)).toEqual({
      place: { x: 0, y: 0, width: WIDTH, height: HEIGHT },
      open: [],
    });
  });
});

/** As much of a canvas as the cache uses, with a number for each px. */
class Grid {
  px = new Int32Array(0);
  private w = 0;
  private h = 0;
  private cut: Region | null = null;
  private path: Region | null = null;
  globalCompositeOperation = 'source-over';
  get canvas() {
    return this;
  }
  get width() {
    return this.w;
  }
  set width(width: number) {
    this.w = width;
    this.px = new Int32Array(this.w * this.h);
  }
  get height() {
    return this.h;
  }
  set height(height: number) {
    this.h = height;
    this.px = new Int32Array(this.w * this.h);
  }
  getContext = () => this;
  setTransform() {}
  save() {}
  beginPath() {
    this.path = null;
  }
  rect(x: number, y: number, width: number, height: number) {
    this.path = { x, y, width, height };
  }
  clip() {
    this.cut = this.path;
  }
  restore() {
    this.cut = null;
  }
  drawImage(from: Grid, dx: number, dy: number) {
    const source = from.px.slice();
    for (let y = 0; y < this.h; y++)
      for (let x = 0; x < this.w; x++) {
        const [sx, sy] = [x - dx, y - dy];
        const inside = sx >= 0 && sy >= 0 && sx < from.w && sy < from.h;
        if (inside) this.px[y * this.w + x] = source[sy * from.w + sx];
        else if (this.globalCompositeOperation === 'copy') this.px[y * this.w + x] = 0;
      }
  }
  fill({ x, y, width, height }: Region, value: number) {
    const cut = this.cut ?? { x: 0, y: 0, width: this.w, height: this.h };
    const [x1, y1] = [Math.min(x + width, cut.x + cut.width, this.w), Math.min(y + height, cut.y + cut.height, this.h)];
    for (let row = Math.max(0, y, cut.y); row < y1; row++)
      this.px.fill(
        value,
        row * this.w + Math.max(0, x, cut.x),
        Math.max(row * this.w + Math.max(0, x, cut.x), row * this.w + x1),
      );
  }
}

describe('the kept picture of the plane, over a random session', () => {
  const SIZE = { width: 400, height: 300 };
  const boards = Array.from({ length: 40 }, (_, i) => ({
    id: `b${i}`,
    kind: 'artboard',
    x: (i % 8) * 30,
    y: Math.floor(i / 8) * 30,
    width: 20,
    height: 20,
  })) as unknown as Artboard[];
  const boxOf = ({ x, y, width, height }: Region): Bounds => ({ minX: x, minY: y, maxX: x + width, maxY: y + height });
  const scene = {
    items: [],
    artboards: boards,
    slices: [],
    placed: {
      items: new Located([], () => boxOf(boards[0])),
      artboards: new Located(boards, boxOf),
      slices: new Located([], () => boxOf(boards[0])),
    },
    pieceById: new Map(boards.map((board) => [board.id, { id: board.id, region: board, record: board }])),
  } as unknown as Scene;

  const rectOf = ({ moving, dx, dy, resized }: Preview, board: Artboard): Region =>
    resized?.id === board.id
      ? resized.rect
      : moving.has(board.id)
        ? { x: board.x + dx, y: board.y + dy, width: board.width, height: board.height }
        : board;
  /** A table with artboards in their order, and a ticket below each; each a number of its own, over again once painted. */
  const drawn =
    (painter: { revision: number }) =>
    (context: unknown, { camera, preview }: PlaneView, seen: Bounds) => {
      const grid = context as Grid;
      grid.fill({ x: 0, y: 0, ...SIZE }, 1);
      boards.forEach((board, i) => {
        const rect = rectOf(preview, board);
        const box = boxOf(rect);
        const reach = 48 / camera.scale;
        if (
          box.minX - reach > seen.maxX ||
          box.maxX + reach < seen.minX ||
          box.minY - reach > seen.maxY ||
          box.maxY + reach < seen.minY
        )
          return;
        const [x, y] = [(rect.x - camera.x) * camera.scale, (rect.y - camera.y) * camera.scale];
        grid.fill(
          { x, y, width: rect.width * camera.scale, height: rect.height * camera.scale },
          10 + i + painter.revision * 100,
        );
        grid.fill({ x, y: y + rect.height * camera.scale, width: rect.width * camera.scale + 13, height: 20 }, 60 + i);
      });
    };

  const step = fc.oneof(
    fc.record({
      do: fc.constant('pan' as const),
      x: fc.integer({ min: -30, max: 30 }),
      y: fc.integer({ min: -30, max: 30 }),
    }),
    fc.record({
      do: fc.constant('drag' as const),
      x: fc.integer({ min: -60, max: 60 }),
      y: fc.integer({ min: -60, max: 60 }),
    }),
    fc.record({
      do: fc.constant('resize' as const),
      x: fc.integer({ min: 1, max: 60 }),
      y: fc.integer({ min: 1, max: 60 }),
    }),
    fc.record({
      do: fc.constantFrom('drop' as const, 'rest' as const, 'paint' as const),
      x: fc.constant(0),
      y: fc.constant(0),
    }),
  );

  test('every frame is what it would be drawn from nothing, however one pans and drags', () => {
    const real = Reflect.get(globalThis, 'document');
    Reflect.set(globalThis, 'document', { createElement: () => new Grid() });
    try {
      fc.assert(
        fc.property(
          fc.array(step, { minLength: 2, maxLength: 25 }),
          fc.uniqueArray(fc.nat(39), { minLength: 1, maxLength: 3 }),
          (steps, picked) => {
            const cache = new PlaneCache();
            const painter = { revision: 0 };
            const moving = new Set(picked.map((i) => `b${i}`));
            const [target, expected] = [new Grid(), new Grid()];
            for (const grid of [target, expected]) Object.assign(grid, SIZE);
            let view = {
              ...SIZE,
              camera: { x: -10, y: -10, scale: 1 },
              dpr: 1,
              scene,
              preview: NO_PREVIEW,
              selection: new Set(),
              doc: {},
              atRest: true,
            } as unknown as PlaneView;
            for (const { do: what, x, y } of [{ do: 'rest' as const, x: 0, y: 0 }, ...steps]) {
              const { camera } = view;
              if (what === 'pan') view = { ...view, camera: { ...camera, x: camera.x + x, y: camera.y + y } };
              if (what === 'drag')
                view = { ...view, preview: { ...NO_PREVIEW, moving, dx: x, dy: y, matrix: translate(x, y) } };
              if (what === 'resize')
                view = {
                  ...view,
                  preview: { ...NO_PREVIEW, resized: { id: 'b9', rect: { ...boards[9], width: x, height: y } } },
                };
              if (what === 'drop') view = { ...view, preview: NO_PREVIEW };
              // What is painted while one pans shows when the hand rests.
              if (what === 'paint') painter.revision++;
              view = { ...view, atRest: what === 'rest' || what === 'paint' };
              cache.draw(target as never, painter as Painter, view, drawn(painter) as never);
              drawn(painter)(expected, view, { minX: -1e9, minY: -1e9, maxX: 1e9, maxY: 1e9 });
              expect(target.px.every((value, i) => value === expected.px[i])).toBe(true);
            }
          },
        ),
        runs(60),
      );
    } finally {
      Reflect.set(globalThis, 'document', real);
    }
  });

  test('zooming over a crowd draws only what comes into view, and at rest all of it; few are drawn at each step', () => {
    const real = Reflect.get(globalThis, 'document');
    Reflect.set(globalThis, 'document', { createElement: () => new Grid() });
    try {
      for (const [count, isCrowd] of [
        [2000, true],
        [100, false],
      ] as const) {
        const many = Array.from({ length: count }, (_, i) => ({ ...boards[0], id: `m${i}`, x: (i % 50) * 2, y: 0 }));
        const crowd = { ...scene, placed: { ...scene.placed, artboards: new Located(many, boxOf) } };
        const areas: number[] = [];
        const still = (_: unknown, of: PlaneView, { minX, minY, maxX, maxY }: Bounds) =>
          void areas.push((maxX - minX) * (maxY - minY) * of.camera.scale ** 2);
        const cache = new PlaneCache();
        const target = Object.assign(new Grid(), SIZE);
        const frame = (scale: number, atRest: boolean) => {
          areas.length = 0;
          const camera = { x: -10, y: -10, scale };
          const view = { ...SIZE, camera, dpr: 1, scene: crowd, preview: NO_PREVIEW, selection: 0, doc: 0, atRest };
          cache.draw(target as never, { revision: 0 } as Painter, view as never, still as never);
          return areas.reduce((sum, area) => sum + area, 0) / (SIZE.width * SIZE.height);
        };
        expect(frame(1, true)).toBeCloseTo(1);
        // Nearer, all that is in view was there before; further away, there is a border that was not.
        const [nearer, further] = [frame(1.1, false), frame(1, false)];
        if (isCrowd) {
          expect(nearer).toBeLessThan(0.06);
          expect(further).toBeGreaterThan(0.1);
          expect(further).toBeLessThan(0.25);
        } else expect([nearer, further]).toEqual([expect.closeTo(1), expect.closeTo(1)]);
        expect(frame(1, true)).toBeCloseTo(1);
        expect(frame(1, true)).toBe(0);
      }
    } finally {
      Reflect.set(globalThis, 'document', real);
    }
  });
});
