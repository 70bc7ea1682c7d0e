import { PT_PER_PX, parseViewBox, printTree, readTree, viewBoxTransform } from '@tolvik/core';
import { pictureProgram } from '../eps/picture';
import { vectorProgram } from '../eps/vectors';
import type { Rendered, RenderJob } from '../job';
import { seenWhenDrawn } from '../seen';

/**
 * Encapsulated PostScript (EPSF 3.0) in 7-bit text, sizes in points. Where anything is half transparent, or is no shape, the
 * whole is a picture on its ground or on white: PostScript knows no transparency. Same input, same bytes.
 */
export function renderEps(job: RenderJob): Rendered {
  const { svg, widthPx, heightPx } = job;
  const { root } = readTree(svg);
  const box = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width: widthPx, height: heightPx };
  const [a, b, c, d, e, f] = viewBoxTransform(box, widthPx, heightPx, 'none');
  const [width, height] = [widthPx * PT_PER_PX, heightPx * PT_PER_PX];
  // Up is up, and a px is three quarters of a point.
  const toPage = [a, -b, c, -d, e, heightPx - f].map((value) => value * PT_PER_PX) as never;
  const vectors = vectorProgram(svg, toPage);
  const { program, level } = vectors ?? pictureProgram(job, width, height);
  const bytes = Buffer.from(epsFile(program, { width, height, level }), 'latin1');
  const size = measureEps(bytes);
  return {
    bytes,
    measured: {
      widthPx: size.widthPt / PT_PER_PX,
      heightPx: size.heightPt / PT_PER_PX,
      bytes: bytes.length,
      alpha: vectors !== null,
      dpi: null,
      colourType: vectors ? 'vector' : 'picture',
      flattened: vectors === null,
      seen: vectors ? seenWhenDrawn(job) : { ...seenWhenDrawn(job), asPicture: true },
    },
  };
}

/** A composed SVG with the white behind it that it has where its EPS is a picture. */
export function asInEps(svg: string): string {
  if (vectorProgram(svg, [1, 0, 0, 1, 0, 0])) return svg;
  const { root } = readTree(svg);
  const { x, y, width, height } = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, width: 0, height: 0 };
  const white = { x: `${x}`, y: `${y}`, width: `${width}`, height: `${height}`, fill: '#ffffff' };
  return printTree({ ...root, children: [{ tag: 'rect', attrs: white, children: [] }, ...root.children] });
}

/** Short names for what a drawing says often. */
const PROLOG = `/Tolvik 16 dict def
Tolvik begin
/m {moveto} bind def
/l {lineto} bind def
/c {curveto} bind def
/h {closepath} bind def
/f {fill} bind def
/g {eofill} bind def
/w {clip newpath} bind def
/x {eoclip newpath} bind def
/k {setrgbcolor} bind def
/q {gsave} bind def
/r {grestore} bind def
end`;

function epsFile(program: string, { width, height, level }: { width: number; height: number; level: 2 | 3 }): string {
  const exact = `${point(width)} ${point(height)}`;
  return `%!PS-Adobe-3.0 EPSF-3.0
%%BoundingBox: 0 0 ${Math.ceil(width - 1e-6)} ${Math.ceil(height - 1e-6)}
%%HiResBoundingBox: 0 0 ${exact}
%%Creator: Tolvik
%%LanguageLevel: ${level}
%%DocumentData: Clean7Bit
%%Pages: 1
%%EndComments
%%BeginProlog
${PROLOG}
%%EndProlog
%%Page: 1 1
save
Tolvik begin
0 0 ${exact} rectclip
newpath
${program}
end
restore
showpage
%%Trailer
%%EOF
`;
}

const point = (value: number): string => `${+value.toFixed(4)}`;

/** Width and height as the written file says. Throws when it is no whole file. */
export function measureEps(bytes: Buffer): { widthPt: number; heightPt: number } {
  const text = bytes.toString('latin1');
  if (!text.startsWith('%!PS-Adobe-3.0 EPSF-3.0\n') || !text.endsWith('\n%%EOF\n'))
    throw new Error('the EPS is cut off');
  const [x, y, right, top] = (/^%%HiResBoundingBox: (.+)$/m.exec(text)?.[1] ?? '').split(' ').map(Number);
  const [left, below, over, above] = (/^%%BoundingBox: (.+)$/m.exec(text)?.[1] ?? '').split(' ').map(Number);
  if (!(right > x) || !(top > y)) throw new Error('the EPS has no bounding box');
  if (left > x || below > y || over < right || above < top) throw new Error('the two bounding boxes of the EPS differ');
  return { widthPt: right - x, heightPt: top - y };
}
