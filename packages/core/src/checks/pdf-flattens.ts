import type { ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';
import type { Check } from './check';

/** Effects that a PDF holds only as a picture (ISO 32000-1 has no filters). */
const EFFECTS: Record<string, string> = { filter: 'a filter' };

function effectOf(doc: ProjectDocument, layer: Layer): string | undefined {
  for (const at of doc.lineage(layer))
    for (const name of Object.keys(EFFECTS)) if (name in at.attrs && at.attrs[name] !== 'none') return EFFECTS[name];
  return undefined;
}

export const pdfFlattens: Check = {
  name: 'pdf-flattens',
  plural: 'become a picture in PDF',
  about:
    'A PDF cannot hold a filter as vectors, so what has one becomes a picture of 600 dpi in it; all else stays vectors.',
  example: 'A soft shadow under an emblem that is exported as PDF.',
  look({ leaves, files }, { doc }) {
    const pdf = files.find((file) => file.format === 'pdf');
    if (!pdf) return [];
    for (const { layer } of leaves) {
      const effect = effectOf(doc, layer);
      if (effect)
        return [
          { severity: 'warning', outputId: pdf.outputId, message: `part of its PDF becomes a picture, for ${effect}` },
        ];
    }
    return [];
  },
};
