import { movedLayer } from '../arrange/move';
import { outermost } from '../arrange/outermost';
import { transformedLayer } from '../arrange/transform';
import { layerToPlane } from '../artwork/bounds/bounds';
import { withWords } from '../artwork/text/words';
import { layersIn, offsetIn } from '../compose/layers-in';
import { DEFS, ProjectDocument } from '../document/document';
import type { Edition, Layer, LayerOverride, ProjectRecord } from '../document/records';
import type { Matrix } from '../geometry/matrix';
import { boundsOf, IDENTITY, invert, isIdentity, multiply, translate } from '../geometry/matrix';
import { layerReferences } from '../profile/references';
import { withOverrides } from './overrides';

/**
 * The artwork on the artboard of an edition as the edition shows it, as a document of its own: layers are shown,
 * hidden, moved, faded and worded as there, though not tinted, so that what lies where can be found and measured. Ids are those of the base.
 */
export function shownArtwork(doc: ProjectDocument, edition: Edition): ProjectDocument {
  const artboard = doc.find('artboard', edition.artboardId);
  const shown = new ProjectDocument([...doc.list('artboard'), ...doc.list('font')]);
  if (!artboard) return shown;
  const { overrides } = edition;
  const wanted = outermost(doc, layersIn(doc, boundsOf(artboard), overrides));
  const put = (record: ProjectRecord) => shown.apply({ puts: [record], removes: [] });
  const refer = (layer: Layer) => {
    for (const [, id] of layerReferences(layer)) {
      const definition = shown.find('layer', id) ? undefined : doc.find('layer', id);
      if (definition?.parentId === DEFS) copy(definition);
    }
  };
  const copy = (layer: Layer) => {
    put(layer);
    refer(layer);
    const override = overrides[layer.id];
    if (override) put(asOverridden(shown, layer, override));
    for (const child of doc.children(layer.id)) copy(child);
  };
  for (const layer of wanted) copy(layer);
  return shown;
}

function asOverridden(
  shown: ProjectDocument,
  layer: Layer,
  { shown: isShown, offset, words, opacity = 1 }: LayerOverride,
): Layer {
  const said = words === undefined ? layer : withWords(layer, words);
  const moved = offset ? movedLayer(shown, said, offset.x, offset.y) : said;
  return { ...moved, shown: isShown ?? layer.shown, opacity: layer.opacity * opacity };
}

/** Layers of the base after a matrix that acts on them where an edition shows them; locked ones stay. */
export const shapedAsShown = (
  doc: ProjectDocument,
  edition: Edition,
  ids: Iterable<string>,
  onPlane: Matrix,
): Layer[] =>
  outermost(doc, ids)
    .filter((layer) => !layer.locked)
    .map((layer) => {
      const { x, y } = offsetIn(doc, edition.overrides, layer);
      return transformedLayer(doc, layer, multiply(multiply(translate(-x, -y), onPlane), translate(x, y)));
    });

/**
 * Moves that were made on what an edition shows, carried out in the edition alone (`only`) or in the base. `moved` are
 * layers of its `shownArtwork` at their new places; what is not moved but otherwise changed is left out.
 */
export function movedAsShown(
  doc: ProjectDocument,
  edition: Edition,
  shown: ProjectDocument,
  moved: readonly Layer[],
  only: boolean,
): ProjectRecord[] {
  let held = edition;
  const puts: ProjectRecord[] = [];
  for (const layer of moved) {
    const [before, base] = [shown.find('layer', layer.id), doc.find('layer', layer.id)];
    if (!before || !base) continue;
    const outer = shown.find('layer', before.parentId);
    const inner = multiply(layer.transform ?? IDENTITY, invert(before.transform ?? IDENTITY));
    const onPlane = outer
      ? multiply(multiply(layerToPlane(shown, outer), inner), invert(layerToPlane(shown, outer)))
      : inner;
    const [x, y] = [+onPlane[4].toFixed(9), +onPlane[5].toFixed(9)];
    if (!isIdentity([...onPlane.slice(0, 4).map((value) => +value.toFixed(9)), 0, 0] as unknown as Matrix)) continue;
    if (only)
      held = withOverrides(doc, held, [layer.id], (was) => ({
        ...was,
        offset: { x: (was.offset?.x ?? 0) + x, y: (was.offset?.y ?? 0) + y },
      }));
    else puts.push(movedLayer(doc, base, x, y));
  }
  return held === edition ? puts : [held, ...puts];
}
