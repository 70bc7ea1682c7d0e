import type { Layer, TextRun } from '../../document/records';
import { printNumber } from '../../geometry/matrix';

/** Distance of lines of text, in sizes of the font. */
export const LINE_HEIGHT = 1.25;

/** Lines of text as runs that each start at the text's own x (SVG 2 §11.4). */
export function textRuns(words: string, x: string, fontSizePx: number): TextRun[] {
  return words
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .map(
      (line, i): TextRun => ({
        text: line || ' ',
        attrs: i === 0 ? {} : { x, dy: printNumber(fontSizePx * LINE_HEIGHT, 4) },
      }),
    );
}

/** The words of a text layer, a line for each run that starts one. */
export const textWords = ({ text = [] }: Pick<Layer, 'text'>): string =>
  text.map((run, i) => (i > 0 && run.attrs.x !== undefined ? '\n' : '') + (run.text === ' ' ? '' : run.text)).join('');

/** A text layer that says other words; its name goes along when it was the words. */
export function withWords(layer: Layer, words: string, fontSizePx?: number): Layer {
  const size = fontSizePx ?? (Number.parseFloat(layer.attrs['font-size'] ?? '16') || 16);
  const before = textWords(layer);
  const name =
    layer.name === '' || layer.name === before.split('\n')[0].slice(0, 60)
      ? words.split('\n')[0].slice(0, 60)
      : layer.name;
  const [first] = layer.text ?? [];
  const runs = textRuns(words, layer.attrs.x ?? '0', size);
  // What the first run looked like, all look like; its place is the layer's or its own.
  const { x: _x, y: _y, dx: _dx, dy: _dy, ...look } = first?.attrs ?? {};
  const place = Object.fromEntries(Object.entries(first?.attrs ?? {}).filter(([key]) => ['x', 'y'].includes(key)));
  return {
    ...layer,
    name,
    text: runs.map((run, i) => ({
      text: run.text,
      attrs: { ...look, ...run.attrs, ...(i === 0 ? place : place.x !== undefined ? { x: place.x } : {}) },
    })),
  };
}
