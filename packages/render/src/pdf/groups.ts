import type { Bounds } from '@tolvik/core';
import { Content, type Doc, Exact, type Ref } from './content';
import { inStream, type Page, type Place } from './place';

/** A transparency group (ISO 32000-1 §11.6.6), drawn with an alpha, a blend mode and a soft mask. */
export function drawGroup(
  page: Page,
  place: Place,
  content: Content,
  { alpha = 1, blend, mask }: { alpha?: number; blend?: string; mask?: Ref },
  draw: (to: Content, at: Place) => void,
): void {
  const form = new Content();
  draw(form, inStream(place));
  if (form.isEmpty) return;
  const object = formObject(page.doc, form, place.seen);
  content.op('q');
  if (alpha < 1 || blend || mask) {
    const state = page.doc.ref({
      Type: 'ExtGState',
      ca: alpha,
      CA: alpha,
      ...(blend ? { BM: blend } : {}),
      ...(mask ? { SMask: mask } : {}),
    });
    state.end();
    content.op(`/${content.name('ExtGState', state)} gs`);
  }
  content.op(`/${content.name('XObject', object)} Do`);
  content.op('Q');
}

/** What is drawn as if it stood where it is used. */
export const plainForm = (doc: Doc, form: Content, { minX, minY, maxX, maxY }: Bounds): Ref =>
  form.toObject(doc, { Type: 'XObject', Subtype: 'Form', BBox: new Exact([minX, minY, maxX, maxY]) });

export const formObject = (
  doc: Doc,
  form: Content,
  { minX, minY, maxX, maxY }: Bounds,
  colourSpace = 'DeviceRGB',
): Ref =>
  form.toObject(doc, {
    Type: 'XObject',
    Subtype: 'Form',
    BBox: new Exact([minX, minY, maxX, maxY]),
    Group: { Type: 'Group', S: 'Transparency', CS: colourSpace, I: true },
  });

export function maskObject({ doc }: Page, form: Content, seen: Bounds, kind: 'Alpha' | 'Luminosity'): Ref {
  const mask = doc.ref({ Type: 'Mask', S: kind, G: formObject(doc, form, seen) });
  mask.end();
  return mask;
}

/** Alpha for fills and strokes (ISO 32000-1 §11.6.4.4). */
export function alphaState(doc: Doc, fill: number, stroke: number): Ref {
  const state = doc.ref({ Type: 'ExtGState', ca: fill, CA: stroke });
  state.end();
  return state;
}
