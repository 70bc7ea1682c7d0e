import { Resvg } from '@resvg/resvg-js';
import { MAX_PIXELS, MAX_SIDE_PX, withoutLayersOffPage } from '@tolvik/core';

export type Pixels = { data: Buffer; width: number; height: number };

/** Refused before anything is allocated, since a failed allocation in the rasteriser ends its process. */
export function checkPixels(width: number, height: number): void {
  if (!(width >= 1) || !(height >= 1) || width > MAX_SIDE_PX || height > MAX_SIDE_PX || width * height > MAX_PIXELS) {
    throw new Error(`${width} × ${height} px is more than one file may have`);
  }
}

/** Draws a composed SVG that holds only what the rasteriser draws as browsers do; pixels are premultiplied RGBA. */
export function drawPixels(svg: string, width: number, height: number): Pixels {
  checkPixels(width, height);
  const image = new Resvg(withoutLayersOffPage(svg), {
    font: { loadSystemFonts: false },
    logLevel: 'off',
  }).render();
  if (image.width !== width || image.height !== height)
    throw new Error(`drew ${image.width} × ${image.height} px instead of ${width} × ${height}`);
  return { data: image.pixels, width, height };
}

/** The middle of a picture, without so many px along each edge. */
export function withoutEdges({ data, width, height }: Pixels, px: number): Pixels {
  if (px === 0) return { data, width, height };
  const [w, h] = [width - 2 * px, height - 2 * px];
  const middle = Buffer.allocUnsafe(w * h * 4);
  for (let y = 0; y < h; y++) {
    const from = ((y + px) * width + px) * 4;
    data.copy(middle, y * w * 4, from, from + w * 4);
  }
  return { data: middle, width: w, height: h };
}
