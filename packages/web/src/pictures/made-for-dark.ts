import { luminance, type ProjectDocument, parseColour } from '@tolvik/core';

/** Grounds below this luminance (WCAG 2.2) are dark. */
const DARK = 0.3;

/** Whether a piece's artwork is made for a dark ground: its files without one are shown on a dark checker. */
export function isMadeForDark(doc: ProjectDocument, pieceId: string): boolean {
  const ground = parseColour(doc.find('artboard', pieceId)?.background ?? '');
  return !!ground && luminance(ground) < DARK;
}
