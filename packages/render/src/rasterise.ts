import { checkPixels, drawPixels, type Pixels, withoutEdges } from './draw-pixels';
import { withPatternsOnGrid } from './patterned';
import { settled } from './settle';

/**
 * Draws a composed SVG at exactly the size its root says. Pixels are premultiplied RGBA.
 * Only composed SVG may come here: the rasteriser would follow references to files.
 */
export function rasterise(svg: string, width: number, height: number): Pixels {
  checkPixels(width, height);
  return drawSettled(withPatternsOnGrid(svg, width, height, drawSettled), width, height);
}

function drawSettled(svg: string, width: number, height: number): Pixels {
  const { svg: drawn, edgePx } = settled(svg, width, height);
  return withoutEdges(drawPixels(drawn, width + 2 * edgePx, height + 2 * edgePx), edgePx);
}

/** The composed SVG with another size of its root; what is drawn takes that size, too. */
export const resized = (svg: string, width: number, height: number): string =>
  svg.replace(
    /^<svg([^>]*) width="[^"]*" height="[^"]*"/,
    `<svg$1 preserveAspectRatio="none" width="${width}" height="${height}"`,
  );
