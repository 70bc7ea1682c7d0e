import type { ProjectDocument } from '../document/document';
import type { Output, RecolourRule } from '../document/records';
import { FORMATS } from '../formats';
import { artboardOf, type Piece } from '../pieces/pieces';

/** How the content of a piece is wanted; files that agree in this share one content. */
export type ContentLook = {
  /** `flat` writes `currentColor` as a colour, for everything but SVG files. */
  purpose: 'svg' | 'flat';
  keepNames: boolean;
  recolour: RecolourRule;
  /** Whether the artboards' own grounds are painted. */
  grounds: boolean;
  withBenchOnly?: boolean;
};

/** What a piece is only looked at on, in hexadecimal; null where its background is painted, or it has none. */
export const shownOn = (doc: ProjectDocument, { record }: Piece): string | null => {
  const artboard = artboardOf(doc, record);
  return artboard?.backgroundUse === 'shown' ? artboard.background : null;
};

/**
 * The ground a file is painted on: a colour, or null for none. A format that shows nothing through always has one: what
 * the piece is looked at on, or white.
 */
export function groundOf(doc: ProjectDocument, piece: Piece, { background, settings }: Output): string | null {
  const own = artboardOf(doc, piece.record)?.background ?? null;
  const shown = shownOn(doc, piece);
  const painted = shown ? null : own;
  const asked =
    background === 'piece' ? painted : background === 'ground' ? own : background === 'none' ? null : background;
  return asked ?? (FORMATS[settings.format].transparent ? null : (shown ?? '#ffffff'));
}

/** The ground that a piece is shown on to people, on sheets and covers: its file's, or else what it is to be looked at on. */
export const groundToSee = (doc: ProjectDocument, piece: Piece, output: Output): string | null =>
  groundOf(doc, piece, output) ?? shownOn(doc, piece);

export const lookFor = (output: Output): ContentLook => ({
  purpose: FORMATS[output.settings.format].markup ? 'svg' : 'flat',
  keepNames: output.settings.format === 'svg' && output.settings.ids === 'kept',
  recolour: output.recolour,
  grounds: output.background === 'piece' || output.background === 'ground',
});

/** Files with one of these in common share their content. */
export const lookKey = (look: ContentLook): string =>
  `${look.purpose} ${look.keepNames} ${look.grounds} ${JSON.stringify(look.recolour)}`;
