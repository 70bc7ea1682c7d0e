import type { ProjectDocument } from '../document/document';
import type { Layer } from '../document/records';
import type { Check } from './check';

/** Effects that a PDF of ours holds only as a picture (ISO 32000-1 has no filters of the kind). */
const EFFECTS: Record<string, string> = { filter: 'a filter', 'mix-blend-mode': 'a blend mode' };

function effectOf(doc: ProjectDocument, layer: Layer): string | undefined {
  for (let at: Layer | undefined = layer; at; at = doc.find('layer', at.parentId)) for (const name of Object.keys(EFFECTS)) if (name in at.attrs && at.attrs[name] !== 'none') return EFFECTS[name];
  return undefined;
}

export const pdfFlattens: Check = {
  name: 'pdf-flattens',
  about: 'A PDF cannot hold an effect of the artwork as vectors, so its page becomes a picture of 300 dpi.',
  example: 'A soft shadow under an emblem that is exported as PDF.',
  look({ leaves, files }, { doc }) {
    const pdf = files.find((file) => file.format === 'pdf');
    if (!pdf) return [];
    for (const { layer } of leaves) {
      const effect = effectOf(doc, layer);
      if (effect) return [{ severity: 'warning', outputId: pdf.outputId, message: `its PDF becomes a picture, for ${effect}` }];
    }
    return [];
  },
};
