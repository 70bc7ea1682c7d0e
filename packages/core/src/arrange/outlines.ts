import type { Fonts } from '../artwork/text/fonts';
import { outlineText, paintOnly } from '../artwork/text/outline-text';
import type { ProjectDocument } from '../document/document';
import type { Change } from '../document/edits';
import { newId } from '../document/ids';
import { ordersAfter } from '../document/order';
import { type Layer, layerRecord } from '../document/records';

/** What a layer takes from its parents, as text needs it. */
function inherited(doc: ProjectDocument, layer: Layer): Record<string, string> {
  const style: Record<string, string> = {};
  for (const at of doc.ancestors(layer)) for (const [name, value] of Object.entries(at.attrs)) style[name] ??= value;
  return style;
}

/**
 * Text layers as paths: each becomes a group of its runs, at its place, under its id, so that slices and
 * editions that name it still do. Texts whose font is missing are drawn in the one that stands in; `missing` says which.
 */
export function textToOutlines(
  doc: ProjectDocument,
  layers: readonly Layer[],
  fonts: Fonts,
): { change: Change; missing: string[] } {
  const missing = new Set<string>();
  const puts: Layer[] = [];
  const texts = layers.filter((layer) => layer.tag === 'text');
  for (const layer of texts) {
    const outlined = outlineText(layer, inherited(doc, layer), fonts);
    for (const family of outlined.missing) missing.add(family);
    if (outlined.runs.length === 0) continue;
    const { text: _text, ...rest } = layer;
    puts.push({ ...rest, tag: 'g', attrs: paintOnly(layer.attrs) });
    const orders = ordersAfter(null, outlined.runs.length);
    outlined.runs.forEach(({ d, attrs }, i) =>
      puts.push(
        layerRecord.parse({
          id: newId(),
          kind: 'layer',
          parentId: layer.id,
          order: orders[i],
          tag: 'path',
          name: '',
          attrs: { ...attrs, d },
        }),
      ),
    );
  }
  return {
    change: {
      label: texts.length === 1 ? `outline ${texts[0].name || 'a text'}` : `outline ${texts.length} texts`,
      puts,
      removes: [],
    },
    missing: [...missing],
  };
}
