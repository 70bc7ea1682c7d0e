/** What is narrower than asked counts as thin where it is so for this many times that width: corners are narrow, too. */
const LONG = 1.5;

/** A picture of what is there: 1 for ink, row by row. */
export type Bitmap = { data: Uint8Array; width: number; height: number };

/**
 * In how many places what is there is narrower than `widthPx`: what no disc of that width reaches that lies within the ink
 * (an opening), where that goes on for longer than corners do, or is all there is of a part.
 */
export function thinPlaces(bitmap: Bitmap, widthPx: number): number {
  const { data, width, height } = bitmap;
  const radius = widthPx / 2;
  // What is outside of the picture is ground.
  const inside = distances(bitmap, 0).map((square) => (square >= radius * radius ? 1 : 0));
  const toCore = distances({ data: Uint8Array.from(inside), width, height }, 1);
  const lost = new Uint8Array(data.length);
  const reach = (radius + 1) ** 2;
  for (let i = 0; i < data.length; i++) if (data[i] && toCore[i] > reach) lost[i] = 1;
  const parts = labelled({ data, width, height });
  const whole = new Map<number, boolean>();
  for (let i = 0; i < data.length; i++) if (parts.labels[i] > 0 && inside[i]) whole.set(parts.labels[i], true);
  const places = labelled({ data: lost, width, height });
  let count = 0;
  for (const { minX, minY, maxX, maxY, at } of places.boxes) {
    const length = Math.hypot(maxX - minX + 1, maxY - minY + 1);
    if (length >= LONG * widthPx || !whole.has(parts.labels[at])) count++;
  }
  return count;
}

/**
 * For each pixel the square of the distance to the nearest one of `value`, in px; beyond the edge lies such a one where
 * `value` is 0. Exact, by lower envelopes of parabolas along rows and columns.
 */
function distances({ data, width, height }: Bitmap, value: 0 | 1): Float64Array {
  const far = 1e12;
  const squares = new Float64Array(data.length);
  for (let i = 0; i < data.length; i++) squares[i] = (data[i] ? 1 : 0) === value ? 0 : far;
  const line = new Float64Array(Math.max(width, height) + 2);
  const out = new Float64Array(line.length);
  const edge = value === 0 ? 0 : far;
  const pass = (start: number, step: number, length: number) => {
    line[0] = line[length + 1] = edge;
    for (let i = 0; i < length; i++) line[i + 1] = squares[start + i * step];
    lowerEnvelope(line, out, length + 2);
    for (let i = 0; i < length; i++) squares[start + i * step] = out[i + 1];
  };
  for (let y = 0; y < height; y++) pass(y * width, 1, width);
  for (let x = 0; x < width; x++) pass(x, width, height);
  return squares;
}

const places = { at: new Int32Array(0), from: new Float64Array(0) };

function lowerEnvelope(line: Float64Array, out: Float64Array, length: number): void {
  if (places.at.length < length + 1) {
    places.at = new Int32Array(length + 1);
    places.from = new Float64Array(length + 2);
  }
  const { at, from } = places;
  let k = 0;
  at[0] = 0;
  from[0] = -Infinity;
  from[1] = Infinity;
  for (let q = 1; q < length; q++) {
    let s = meeting(line, q, at[k]);
    while (s <= from[k]) s = meeting(line, q, at[--k]);
    at[++k] = q;
    from[k] = s;
    from[k + 1] = Infinity;
  }
  k = 0;
  for (let q = 0; q < length; q++) {
    while (from[k + 1] < q) k++;
    out[q] = (q - at[k]) ** 2 + line[at[k]];
  }
}

const meeting = (line: Float64Array, q: number, p: number): number =>
  (line[q] + q * q - line[p] - p * p) / (2 * q - 2 * p);

type Box = { minX: number; minY: number; maxX: number; maxY: number; at: number };

/** Which part of the ink each pixel belongs to, from 1, neighbours across corners too; and the box of each. */
function labelled({ data, width, height }: Bitmap): { labels: Int32Array; boxes: Box[] } {
  const labels = new Int32Array(data.length);
  const boxes: Box[] = [];
  const waiting: number[] = [];
  for (let first = 0; first < data.length; first++) {
    if (!data[first] || labels[first]) continue;
    const box = { minX: width, minY: height, maxX: 0, maxY: 0, at: first };
    boxes.push(box);
    labels[first] = boxes.length;
    waiting.push(first);
    for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
      const [x, y] = [at % width, Math.floor(at / width)];
      box.minX = Math.min(box.minX, x);
      box.maxX = Math.max(box.maxX, x);
      box.minY = Math.min(box.minY, y);
      box.maxY = Math.max(box.maxY, y);
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const next = ny * width + nx;
          if (!data[next] || labels[next]) continue;
          labels[next] = boxes.length;
          waiting.push(next);
        }
    }
  }
  return { labels, boxes };
}
