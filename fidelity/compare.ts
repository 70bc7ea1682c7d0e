/** RGBA pixels, not premultiplied. */
export type Picture = { width: number; height: number; data: Uint8Array };

/** A channel may differ by so much (of 255) where edges are smoothed by another rule: the rasteriser has four rows to a px. */
const TOLERANCE = 64;
/** The ground pictures are laid on, so that white, black and nothing can be told apart. */
const GROUND = [244, 217, 236];

/** Share of px (0 to 1) in which two pictures differ: where neither has, within one px, what the other shows. */
export function differingShare(a: Picture, b: Picture): number {
  if (a.width !== b.width || a.height !== b.height) return 1;
  const { width, height } = a;
  const [one, other] = [onGround(a), onGround(b)];
  let differing = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 3;
      if (apart(one, at, other, at) <= TOLERANCE) continue;
      if (!isNear(one, at, other, x, y, width, height) || !isNear(other, at, one, x, y, width, height)) differing++;
    }
  }
  return differing / (width * height);
}

/** By how much two pictures differ at the most, in any channel of any px; 255 when their sizes do. */
export function largestDifference(a: Picture, b: Picture): number {
  if (a.width !== b.width || a.height !== b.height) return 255;
  const [one, other] = [onGround(a), onGround(b)];
  let most = 0;
  for (let i = 0; i < one.length; i++) most = Math.max(most, Math.abs(one[i] - other[i]));
  return most;
}

/** A picture with each `by` × `by` px as one, colours weighed by their alpha. */
export function shrunk({ width, height, data }: Picture, by: number): Picture {
  const [w, h] = [Math.floor(width / by), Math.floor(height / by)];
  const small = new Uint8Array(w * h * 4);
  for (let y = 0, to = 0; y < h; y++) {
    for (let x = 0; x < w; x++, to += 4) {
      let [r, g, b, a] = [0, 0, 0, 0];
      for (let dy = 0; dy < by; dy++) {
        for (let dx = 0; dx < by; dx++) {
          const at = ((y * by + dy) * width + x * by + dx) * 4;
          const alpha = data[at + 3];
          [r, g, b, a] = [r + data[at] * alpha, g + data[at + 1] * alpha, b + data[at + 2] * alpha, a + alpha];
        }
      }
      if (a > 0) small.set([r / a, g / a, b / a, a / (by * by)], to);
    }
  }
  return { width: w, height: h, data: small };
}

function isNear(
  from: Uint8Array,
  at: number,
  among: Uint8Array,
  x: number,
  y: number,
  width: number,
  height: number,
): boolean {
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const [px, py] = [x + dx, y + dy];
      if (px >= 0 && py >= 0 && px < width && py < height && apart(from, at, among, (py * width + px) * 3) <= TOLERANCE)
        return true;
    }
  }
  return false;
}

const apart = (a: Uint8Array, i: number, b: Uint8Array, j: number): number =>
  Math.max(Math.abs(a[i] - b[j]), Math.abs(a[i + 1] - b[j + 1]), Math.abs(a[i + 2] - b[j + 2]));

function onGround({ width, height, data }: Picture): Uint8Array {
  const rgb = new Uint8Array(width * height * 3);
  for (let i = 0, j = 0; j < rgb.length; i += 4, j += 3) {
    const alpha = data[i + 3] / 255;
    for (let c = 0; c < 3; c++) rgb[j + c] = Math.round(data[i + c] * alpha + GROUND[c] * (1 - alpha));
  }
  return rgb;
}
