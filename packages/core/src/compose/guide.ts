import type { Fonts } from '../artwork/text/fonts';
import { outlineText } from '../artwork/text/outline-text';
import { type Artboard, layerRecord } from '../document/records';
import { printNumber } from '../geometry/matrix';
import type { FollowedLayout } from '../pieces/placements';

const LINE = '#d2452a';
const n = (value: number) => printNumber(value, 3);

/** The clear space of a lockup and what it is measured by, drawn over it: lines, and how many times the measured height each length is. */
export function guideMarkup(
  { clearSpacePx, gapPx, measuredPx, placements }: FollowedLayout,
  { width, height, follows }: Artboard,
  fonts: Fonts,
): string {
  if (!follows?.lockup) return '';
  const thin = Math.max(measuredPx / 80, 0.25);
  const size = Math.min(measuredPx / 5, clearSpacePx > 0 ? clearSpacePx * 0.6 : Infinity);
  const left = Math.min(...placements.map(({ x }) => x));
  const top = Math.min(...placements.map(({ y }) => y));
  const right = Math.max(...placements.map(({ x, source, scale }) => x + source.width * scale));
  const bottom = Math.max(...placements.map(({ y, source, scale }) => y + source.height * scale));
  const rect = (x: number, y: number, w: number, h: number, dashed: boolean) =>
    `<rect x="${n(x)}" y="${n(y)}" width="${n(w)}" height="${n(h)}"${dashed ? ` stroke-dasharray="${n(thin * 6)} ${n(thin * 4)}"` : ''}/>`;
  const lines = [
    rect(left, top, right - left, bottom - top, false),
    rect(
      left - clearSpacePx,
      top - clearSpacePx,
      right - left + 2 * clearSpacePx,
      bottom - top + 2 * clearSpacePx,
      true,
    ),
    ...placements.map(({ x, y, source, scale }) => rect(x, y, source.width * scale, source.height * scale, true)),
  ];
  const words: string[] = [];
  const label = (text: string, x: number, y: number, upward = false, sizePx = size) => {
    const layer = layerRecord.parse({
      id: 'guide',
      kind: 'layer',
      parentId: 'root',
      order: 'a0',
      tag: 'text',
      attrs: { x: n(x), y: n(y), 'font-family': 'Spline Sans Mono', 'font-size': n(sizePx), 'text-anchor': 'middle' },
      text: [{ text, attrs: {} }],
    });
    const turn = upward ? ` transform="rotate(-90 ${n(x)} ${n(y)})"` : '';
    for (const run of outlineText(layer, {}, fonts).runs) words.push(`<path d="${run.d}"${turn}/>`);
  };
  const times = (length: number) => `${+(length / measuredPx).toFixed(2)} x`;
  if (clearSpacePx > 0) {
    label(times(clearSpacePx), (left + right) / 2, top - clearSpacePx / 2 + size / 3);
    label(times(clearSpacePx), left - clearSpacePx / 2 + size / 3, (top + bottom) / 2, true);
  }
  const [first, second] = placements;
  if (gapPx > 0 && first && second) {
    const words = times(gapPx);
    // They stand in the gap and on neither part: upright where it is one beside the other.
    const fits = Math.min(size, gapPx * 0.8);
    if (follows.lockup.arrangement === 'wide')
      label(words, second.x - gapPx / 2 + fits / 3, (top + bottom) / 2, true, fits);
    else label(words, (left + right) / 2, second.y - gapPx / 2 + fits / 3, false, fits);
  }
  const shade = `<path d="M0 0H${n(width)}V${n(height)}H0ZM${n(left)} ${n(top)}V${n(bottom)}H${n(right)}V${n(top)}Z" fill="${LINE}" fill-opacity="0.08" fill-rule="evenodd"/>`;
  return `${shade}<g fill="none" stroke="${LINE}" stroke-width="${n(thin)}">${lines.join('')}</g><g fill="${LINE}">${words.join('')}</g>`;
}
