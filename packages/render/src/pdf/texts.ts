import { createRequire } from 'node:module';
import { type PageText, PT_PER_PX } from '@tolvik/core';

// The family that ships with the app, in a form whose letters can be taken out one by one (WOFF 1.0).
const FACES = {
  400: '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-400-normal.woff',
  600: '@fontsource/schibsted-grotesk/files/schibsted-grotesk-latin-600-normal.woff',
} as const;
const pathOf = (weight: PageText['weight']) => createRequire(import.meta.url).resolve(FACES[weight]);

/**
 * Words on the page that was added last, as text that can be searched and copied, with the letters they need of their
 * font in the file (ISO 32000-1 §9.6.6). Letters that the font lacks show its .notdef.
 */
export function drawTexts(doc: PDFKit.PDFDocument, texts: readonly PageText[]): void {
  if (texts.length === 0) return;
  // The writer of text counts from above, from where its pages begin; what was drawn until here counts from below.
  doc.addContent(`q 1 0 0 -1 0 ${doc.page.height} cm`);
  for (const { text, x, y, sizePx, weight, fill, end } of texts) {
    doc
      .font(pathOf(weight))
      .fontSize(sizePx * PT_PER_PX)
      .fillColor(fill);
    const left = x * PT_PER_PX - (end ? doc.widthOfString(text) : 0);
    doc.text(text, left, y * PT_PER_PX, { lineBreak: false, baseline: 'alphabetic' });
  }
  doc.addContent('Q');
}
