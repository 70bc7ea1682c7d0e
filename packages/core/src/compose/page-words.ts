import type { Fonts } from '../artwork/text/fonts';
import { outlineText } from '../artwork/text/outline-text';
import { layerRecord } from '../document/records';
import { printNumber } from '../geometry/matrix';

const FAMILY = 'Schibsted Grotesk';
export const INK = '#1b2021';
export const QUIET = '#5c6466';
/** Of frames and lines on a page. */
export const RULE = '#d9dcd8';
const n = (value: number) => printNumber(value, 3);

/** A line of words on a page: where its baseline begins or ends, in px; set in the family that ships with the app. */
export type PageText = {
  text: string;
  x: number;
  y: number;
  sizePx: number;
  weight: 400 | 600;
  fill: string;
  end: boolean;
};

/** A line of words with the width that it has room for, in px; else it has what the page has. */
export type FittedText = PageText & { room?: number };

/** How wide words are, in px, as the family that ships with the app sets them. */
function widthOf(fonts: Fonts, { text, sizePx, weight }: Pick<PageText, 'text' | 'sizePx' | 'weight'>): number {
  const font = fonts.find(FAMILY, weight, false)?.face.font;
  // Where there is none, as wide as letters are about.
  if (!font) return text.length * sizePx * 0.55;
  const advance = font.layout(text).positions.reduce((sum, { xAdvance }) => sum + xAdvance, 0);
  return (advance / font.unitsPerEm) * sizePx;
}

/** Words that fit in a width: shortened in the middle, so that names which begin alike are told apart. */
export function fitted(fonts: Fonts, line: PageText, width: number): PageText {
  if (widthOf(fonts, line) <= width) return line;
  const letters = [...line.text];
  let [fits, over] = [0, letters.length];
  const cut = (keep: number) => {
    const head = Math.ceil(keep / 2);
    return `${letters.slice(0, head).join('').trimEnd()}…${letters
      .slice(letters.length - (keep - head))
      .join('')
      .trimStart()}`;
  };
  while (over - fits > 1) {
    const middle = (fits + over) >> 1;
    if (widthOf(fonts, { ...line, text: cut(middle) }) <= width) fits = middle;
    else over = middle;
  }
  return { ...line, text: cut(fits) };
}

/** A page with its words drawn as outlines, for where it is a picture. */
export function withOutlines({ svg, texts }: { svg: string; texts: readonly PageText[] }, fonts: Fonts): string {
  const paths = texts.flatMap(({ text, x, y, sizePx, weight, fill, end }) => {
    const layer = layerRecord.parse({
      id: 'words',
      kind: 'layer',
      parentId: 'root',
      order: 'a0',
      tag: 'text',
      attrs: {
        x: n(x),
        y: n(y),
        'font-family': FAMILY,
        'font-size': n(sizePx),
        'font-weight': String(weight),
        'text-anchor': end ? 'end' : 'start',
      },
      text: [{ text, attrs: {} }],
    });
    return outlineText(layer, {}, fonts).runs.flatMap(({ d }) => (d ? [`<path d="${d}" fill="${fill}"/>`] : []));
  });
  return svg.replace(/<\/svg>$/, `${paths.join('')}</svg>`);
}
