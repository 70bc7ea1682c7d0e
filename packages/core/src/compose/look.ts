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

/** The ground a file is painted on: a colour, or null for none. JPEG always has one. */
export function groundOf(doc: ProjectDocument, piece: Piece, output: Output): string | null {
  const { background, settings } = output;
  const record = piece.record;
  const artboard = artboardOf(doc, record);
  const own = background === 'piece' ? (artboard?.background ?? null) : background === 'none' ? null : background;
  return own ?? (FORMATS[settings.format].transparent ? null : '#ffffff');
}

export const lookFor = (output: Output): ContentLook => ({
  purpose: FORMATS[output.settings.format].markup ? 'svg' : 'flat',
  keepNames: output.settings.format === 'svg' && output.settings.ids === 'kept',
  recolour: output.recolour,
  grounds: output.background === 'piece',
});

/** Files with one of these in common share their content. */
export const lookKey = (look: ContentLook): string =>
  `${look.purpose} ${look.keepNames} ${look.grounds} ${JSON.stringify(look.recolour)}`;
