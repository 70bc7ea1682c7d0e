/** What is narrower than asked counts as thin where it is so for this many times that width: corners are narrow, too. */
const LONG = 1.5;
/** And for so many where it is a notch that ends in itself, as between a stem and its arch: a knife goes in and out again. */
export const NOTCH = 4;

/** A picture of what is there: 1 for ink, row by row. */
export type Bitmap = { data: Uint8Array; width: number; height: number };

/**
 * In how many places what is there is narrower than `widthPx`: what no disc of that width reaches that lies within the ink
 * (an opening), where that goes on for longer than corners do, or is all there is of a part. What hangs on by one
 * end alone has to go on for `endLong` times the width. Outside of the picture is ground.
 */
export function thinPlaces(ink: Bitmap, widthPx: number, endLong = LONG): number {
  const { data, width, height } = ink;
  const radius = widthPx / 2;
  const nearGround = near({ data: data.map((is) => 1 - is), width, height }, radius * radius - 1e-9, true);
  const core = data.map((is, i) => is & (1 - nearGround[i]));
  const reached = near({ data: core, width, height }, (radius + 1) ** 2, false);
  const lost = data.map((is, i) => is & (1 - reached[i]));
  return placesIn({ data: lost, width, height }, data).filter(
    ({ length, holds }) => holds === 0 || length >= (holds === 1 ? endLong : LONG) * widthPx,
  ).length;
}

/** Where a px that is set lies within a distance, given as its square; `outside` says whether all beyond the edges is set. */
function near({ data, width, height }: Bitmap, square: number, outside: boolean): Uint8Array {
  const reach = Math.floor(Math.sqrt(square));
  const far = reach + 1;
  // Up and down first: how far the next one is in each column.
  const down = new Uint8Array(data.length);
  const beyond = outside ? 0 : far;
  for (let i = 0; i < data.length; i++)
    down[i] = data[i] ? 0 : Math.min(far, (i < width ? beyond : down[i - width]) + 1);
  for (let i = data.length - 1; i >= 0; i--)
    down[i] = Math.min(down[i], (i >= data.length - width ? beyond : down[i + width]) + 1);
  const found = new Uint8Array(data.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      for (let dx = 0; dx <= reach; dx++) {
        const left = x < dx ? beyond : down[row + x - dx];
        const right = x + dx >= width ? beyond : down[row + x + dx];
        const away = Math.min(left, right);
        if (away * away + dx * dx <= square) {
          found[row + x] = 1;
          break;
        }
      }
    }
  }
  return found;
}

/** Parts of what was lost, neighbours across corners too: how long each is, and at how many places it holds on to what is left. */
function placesIn({ data, width, height }: Bitmap, ink: Uint8Array): { length: number; holds: number }[] {
  const seen = new Uint8Array(data.length);
  const places: { length: number; holds: number }[] = [];
  const waiting: number[] = [];
  for (let first = 0; first < data.length; first++) {
    if (!data[first] || seen[first]) continue;
    let [minX, minY, maxX, maxY] = [width, height, 0, 0];
    const touched = new Set<number>();
    seen[first] = 1;
    waiting.push(first);
    for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
      const x = at % width;
      const y = (at - x) / width;
      minX = Math.min(minX, x);
      maxX = Math.max(maxX, x);
      minY = Math.min(minY, y);
      maxY = Math.max(maxY, y);
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const next = ny * width + nx;
          if (ink[next] && !data[next]) touched.add(next);
          if (!data[next] || seen[next]) continue;
          seen[next] = 1;
          waiting.push(next);
        }
    }
    places.push({ length: Math.hypot(maxX - minX + 1, maxY - minY + 1), holds: clusters(touched, width) });
  }
  return places;
}

/** How many groups there are among px of which each lies beside another, or nearly. */
function clusters(px: Set<number>, width: number): number {
  const left = new Set(px);
  const waiting: number[] = [];
  let count = 0;
  for (const first of px) {
    if (!left.delete(first)) continue;
    count++;
    waiting.push(first);
    for (let at = waiting.pop(); at !== undefined; at = waiting.pop())
      for (let dy = -2; dy <= 2; dy++)
        for (let dx = -2; dx <= 2; dx++) {
          const next = at + dy * width + dx;
          if (left.delete(next)) waiting.push(next);
        }
  }
  return count;
}
