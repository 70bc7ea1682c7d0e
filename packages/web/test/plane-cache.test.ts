import fc from 'fast-check';
import { snapped } from '../src/bench/plane/camera';
import { shiftOf } from '../src/bench/plane/plane-cache';

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
