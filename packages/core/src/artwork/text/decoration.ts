import type { Font } from 'fontkit';
import type { GlyphSteps } from './glyphs';
import type { Letter } from './layout';

/** A line under, over or through letters of a run, in px from the text's origin; `y` is its upper edge. */
export type Line = { run: number; from: number; to: number; y: number; thickness: number; skips: boolean };

/** Lines that `text-decoration` asks for, from the baseline (CSS Text Decoration 4 §2). */
function linesOf(said: string, font: Font, size: number): { y: number; thickness: number; skips: boolean }[] {
  const thickness = size / 10;
  const ascent = (font.ascent * size) / font.unitsPerEm;
  return [
    ...(/underline/.test(said) ? [{ y: thickness * 0.625, thickness, skips: true }] : []),
    ...(/overline/.test(said) ? [{ y: -ascent, thickness, skips: false }] : []),
    ...(/line-through/.test(said) ? [{ y: -ascent / 3 - thickness / 2, thickness, skips: false }] : []),
  ];
}

/** The lines of letters that have been laid out: one for each stretch of a run that stands on one height. */
export function decorationOf(letters: readonly Letter[]): Line[] {
  const lines: Line[] = [];
  let stretch: Letter[] = [];
  const finish = () => {
    const [first, last] = [stretch[0], stretch.at(-1)];
    stretch = [];
    if (!first || !last || !(last.x + last.advance > first.x)) return;
    for (const line of linesOf(first.style.decoration, first.style.font, first.style.size))
      lines.push({
        ...line,
        run: first.run,
        from: first.x,
        to: last.x + last.advance,
        y: first.y + first.style.rise + line.y,
      });
  };
  for (const letter of letters) {
    const [first] = stretch;
    if (first && (first.run !== letter.run || letter.opensChunk || first.y !== letter.y)) finish();
    if (letter.style.decoration && !letter.walk && letter.turn === 0) stretch.push(letter);
  }
  finish();
  return lines;
}

/** A glyph of a run as it stands on the line. */
export type Standing = { run: number; steps: GlyphSteps; x: number; y: number; scale: number };

/** The stretches of a line that letters reaching through it leave (CSS Text Decoration 4 §5.1). */
export function gapped(line: Line, glyphs: readonly Standing[]): [number, number][] {
  const [top, bottom] = [line.y, line.y + line.thickness];
  const gaps = glyphs
    .filter(({ run }) => run === line.run)
    .flatMap(({ steps, scale, x, y }): [number, number][] => {
      if (!steps.box || y - steps.box.minY * scale <= top) return [];
      let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      let last: [number, number] | null = null;
      const meet = (toX: number, toY: number) => {
        if (last) {
          for (let i = 0; i <= PIECES; i++) {
            const [px, py] = [last[0] + ((toX - last[0]) * i) / PIECES, last[1] + ((toY - last[1]) * i) / PIECES];
            if (py >= top && py <= bottom) [from, to] = [Math.min(from, px), Math.max(to, px)];
          }
        }
        last = [toX, toY];
      };
      for (const { command, numbers: n } of steps.steps) {
        if (command === 'M') last = null;
        for (let i = 0; i < n.length; i += 2) meet(x + n[i] * scale, y - n[i + 1] * scale);
      }
      return to >= from ? [[from - line.thickness, to + line.thickness]] : [];
    })
    .sort((a, b) => a[0] - b[0]);
  const parts: [number, number][] = [];
  let from = line.from;
  for (const [start, end] of gaps) {
    if (start > from) parts.push([from, Math.min(start, line.to)]);
    from = Math.max(from, end);
  }
  if (from < line.to) parts.push([from, line.to]);
  return parts;
}

const PIECES = 8;
