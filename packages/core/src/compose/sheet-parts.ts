import { projectColours } from '../arrange/project-colours';
import { contrast, parseColour } from '../artwork/colour/colours';
import { printCmyk } from '../basics/cmyk';
import type { ProjectDocument } from '../document/document';
import type { BrandColour } from '../document/records';
import { FORMATS } from '../formats';
import { printNumber } from '../geometry/matrix';
import { pieces } from '../pieces/pieces';
import type { ContactSheetGrid } from '../plan/contact-sheet';
import { outputTitle } from '../plan/output-words';
import { allOutputs } from '../plan/plan';
import { type FittedText, INK, type PageText, QUIET, RULE } from './page-words';

type Part = { svg: string; texts: FittedText[] };

const n = (value: number) => printNumber(value, 3);
const WHITE = { r: 255, g: 255, b: 255, a: 1 };
const BLACK = { r: 0, g: 0, b: 0, a: 1 };
const COLUMNS = 4;
const SWATCH_HIGH = 96;
const SWATCH_STEP = 13;
const LINE_HIGH = 22;

const line = (text: string, x: number, y: number, fields: Partial<PageText> = {}): PageText => ({
  text,
  x,
  y,
  sizePx: 9.5,
  weight: 400,
  fill: QUIET,
  end: false,
  ...fields,
});
const title = (text: string, x: number, y: number): PageText =>
  line(text, x, y, { sizePx: 13, weight: 600, fill: INK });
const andMore = (more: number, x: number, y: number): PageText[] => (more > 0 ? [line(`and ${more} more`, x, y)] : []);

/** Colours of which more is known, in the order in which it was said; then the others, the most used first. */
function coloursInOrder(doc: ProjectDocument): BrandColour[] {
  const used = projectColours(doc).map(({ colour }) => colour);
  const known = (doc.settings.colours ?? []).filter(({ colour }) => used.includes(colour));
  const others = used.filter((colour) => !known.some((each) => each.colour === colour));
  return [...known, ...others.map((colour) => ({ colour }))];
}

/**
 * The colours that the project is painted with: each with its values (sRGB; CMYK and spot as they were decided) and its
 * contrast (WCAG 2.2).
 */
export function coloursPage(doc: ProjectDocument, { left, top, widthPx, heightPx }: ContactSheetGrid): Part {
  const all = coloursInOrder(doc);
  const step = (widthPx - 2 * left + 16) / COLUMNS;
  const some = (field: keyof BrandColour) => (all.some((each) => each[field]) ? 1 : 0);
  const rowHigh = SWATCH_HIGH + 74 + SWATCH_STEP * (some('name') + some('cmyk') + some('spot'));
  const most = COLUMNS * Math.max(1, Math.floor((heightPx - top - left - 40) / rowHigh));
  const texts: FittedText[] = [title('Colours', left, top + 4)];
  const swatches = all.slice(0, most).map(({ colour, name, cmyk, spot }, i) => {
    const x = left + (i % COLUMNS) * step;
    const y = top + 18 + Math.floor(i / COLUMNS) * rowHigh;
    const rgb = parseColour(colour) ?? BLACK;
    const below = y + SWATCH_HIGH;
    const on = (ground: typeof WHITE) => contrast(rgb, ground).toFixed(1);
    const facts = [
      ...(name ? [colour] : []),
      `RGB ${rgb.r} ${rgb.g} ${rgb.b}`,
      ...(cmyk ? [`CMYK ${printCmyk(cmyk)}`] : []),
      ...(spot ? [`spot: ${spot}`] : []),
      `contrast: ${on(WHITE)} on white, ${on(BLACK)} on black`,
    ];
    const room = step - 20;
    texts.push(
      { ...line(name ?? colour, x, below + 16, { weight: 600, fill: INK, sizePx: 11 }), room },
      ...facts.map((words, at) => ({ ...line(words, x, below + 30 + at * SWATCH_STEP), room })),
    );
    return `<rect x="${n(x)}" y="${n(y)}" width="${n(step - 16)}" height="${SWATCH_HIGH}" fill="${colour}" stroke="${RULE}" stroke-width="0.75"/>`;
  });
  texts.push(...andMore(all.length - most, left, heightPx - left - 20));
  return { svg: swatches.join(''), texts };
}

/** What files there are of the pieces: each output with where its files lie, and of how many pieces. */
export function filesPage(doc: ProjectDocument, { left, top, widthPx, heightPx }: ContactSheetGrid): Part {
  const list = pieces(doc).filter(({ on }) => on);
  const rows = allOutputs(doc)
    .filter(({ on }) => on)
    .map((output) => {
      const of = list.filter(
        (piece) => piece.specIds.includes(output.specId) && !piece.offOutputIds.includes(output.id),
      );
      const { extension } = FORMATS[output.settings.format];
      const where = `${output.folder ? `${output.folder}/` : ''}…${output.suffix}.${extension}`;
      return { spec: doc.find('spec', output.specId)?.name ?? '', name: outputTitle(output), where, count: of.length };
    })
    .filter(({ count }) => count > 0);
  const most = Math.max(1, Math.floor((heightPx - top - left - 60) / LINE_HIGH));
  const texts = [title('Files', left, top + 4)];
  const rules = rows.slice(0, most).map(({ spec, name, where, count }, i) => {
    const y = top + 34 + i * LINE_HIGH;
    texts.push(
      line(spec, left, y, { sizePx: 11 }),
      line(name, left + 130, y, { sizePx: 11, weight: 600, fill: INK }),
      line(where, left + 290, y, { sizePx: 11 }),
      line(`of ${count} ${count === 1 ? 'piece' : 'pieces'}`, widthPx - left, y, { sizePx: 11, end: true }),
    );
    return `<rect x="${n(left)}" y="${n(y + 6)}" width="${n(widthPx - 2 * left)}" height="0.75" fill="${RULE}"/>`;
  });
  texts.push(...andMore(rows.length - most, left, heightPx - left - 20));
  return { svg: rules.join(''), texts };
}
