import type { Fonts } from '../artwork/text/fonts';
import type { ProjectDocument } from '../document/document';
import type { Artboard, Output } from '../document/records';
import type { ContactSheetSettings } from '../formats/contact-sheet';
import { PX_PER_MM } from '../geometry/sizes';
import type { Piece } from '../pieces/pieces';
import { followedLayout } from '../pieces/placements';
import { smallestOf, smallestWords } from '../pieces/smallest';
import { cellAt, contactSheetGrid, lockupGrid } from '../plan/contact-sheet';
import type { PieceContent } from './compose';
import { guideMarkup } from './guide';
import type { FileIds } from './ids';
import { groundToSee } from './look';
import { type FittedText, INK, QUIET } from './page-words';
import { drawnAt, inCell } from './sheet-cell';

/** Most room for a lockup at its smallest, right of its words: a share of the cell's width, and the height of the words in px. */
const BESIDE = 0.42;
const BESIDE_HIGH = 44;
/** Between the words and what stands beside them, in px. */
const APART = 12;
const LINE = 13;

/** How wide it is on paper at its smallest: in mm, or px of 1/96 inch; null where it is not said or there is no room. */
function smallestOnPaper(doc: ProjectDocument, artboard: Artboard, cellWidth: number): number | null {
  const smallest = smallestOf(doc, artboard);
  const width = smallest?.mm === undefined ? smallest?.px : smallest.mm * PX_PER_MM;
  if (width === undefined || width > cellWidth * BESIDE) return null;
  return (width / artboard.width) * artboard.height > BESIDE_HIGH ? null : width;
}

/** What is said below each: its name, its clear space, its smallest width. */
export function lockupTexts(
  doc: ProjectDocument,
  pieces: readonly Piece[],
  settings: ContactSheetSettings,
): FittedText[] {
  const grid = lockupGrid(settings);
  const words = { sizePx: 9.5, weight: 400, fill: QUIET, end: false } as const;
  const page = contactSheetGrid(settings);
  const title = 'Lockups: clear space and smallest size';
  return [
    { text: title, x: page.left, y: page.top + 4, sizePx: 13, weight: 600, fill: INK, end: false },
    ...pieces.flatMap((piece, i) => {
      const artboard = doc.find('artboard', piece.id);
      if (!artboard) return [];
      const { x, y } = cellAt(i, grid);
      const at = y + grid.pictureHeight;
      const lockup = artboard.follows?.lockup;
      const smallest = smallestOf(doc, artboard);
      const beside = smallestOnPaper(doc, artboard, grid.cellWidth);
      const room = grid.cellWidth - (beside === null ? 0 : beside + APART);
      const lines = [
        ...(lockup ? [`clear space: ${+lockup.clearSpace.toFixed(2)} × the height of the wordmark`] : []),
        ...(smallest ? [`smallest: ${smallestWords(smallest)}`] : []),
      ];
      return [
        { ...words, text: piece.name, x, y: at + 14, sizePx: 11, weight: 600 as const, fill: INK, room },
        ...lines.map((text, line) => ({ ...words, text, x, y: at + 28 + line * LINE, room })),
      ];
    }),
  ];
}

/** Each with its clear space drawn over it, and beside its words as large as it is at its smallest. */
export function lockupCells({
  doc,
  pieces,
  output,
  settings,
  fonts,
  ids,
  compose,
}: {
  doc: ProjectDocument;
  pieces: readonly Piece[];
  output: Output;
  settings: ContactSheetSettings;
  fonts: Fonts;
  ids: FileIds;
  compose(piece: Piece): PieceContent;
}): string[] {
  const grid = lockupGrid(settings);
  return pieces.map((piece, i) => {
    const artboard = doc.find('artboard', piece.id);
    const layout = artboard && followedLayout(doc, artboard);
    const measures = layout && typeof layout !== 'string' ? guideMarkup(layout, artboard, fonts) : '';
    const { defs, body } = compose(piece);
    const { x, y } = cellAt(i, grid);
    const ground = groundToSee(doc, piece, output);
    const large = inCell({
      box: { x, y, width: grid.cellWidth, height: grid.pictureHeight },
      region: piece.region,
      ground,
      fills: ground !== null,
      clip: ids.idFor(`lockup ${i}`),
      inner: defs + body + measures,
    });
    const width = artboard ? smallestOnPaper(doc, artboard, grid.cellWidth) : null;
    if (width === null) return large;
    const beside = drawnAt({
      x: x + grid.cellWidth - width,
      y: y + grid.pictureHeight + 8,
      scale: width / piece.region.width,
      region: piece.region,
      ground,
      clip: ids.idFor(`smallest ${i}`),
      inner: body,
    });
    return large + beside;
  });
}
