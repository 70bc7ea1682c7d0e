import { withInherited } from '../arrange/layers';
import { outermost } from '../arrange/outermost';
import { boundsOfLayers } from '../arrange/transform';
import { layerToPlane } from '../artwork/bounds/bounds';
import { escapeAttribute, escapeText, SVG_NS, XLINK_NS } from '../artwork/markup/xml';
import { toBase64 } from '../artwork/pictures/pictures';
import { blendStyle, ONLY_IN_STYLE } from '../compose/blend-style';
import type { Pictures } from '../compose/write-layers';
import { DEFS, type ProjectDocument, ROOT } from '../document/document';
import type { Layer } from '../document/records';
import { isIdentity, multiply, printNumber, translate } from '../geometry/matrix';
import { layerReferences } from '../profile/references';

const attribute = (key: string, value: string) => ` ${key}="${escapeAttribute(value)}"`;

/** One layer and all in it as SVG that can be gone on working on: text stays text, names stay in `data-name`. `saw` is told of each. */
export function writeLiveLayer(
  doc: ProjectDocument,
  layer: Layer,
  pictures: Pictures,
  saw: (layer: Layer) => void = () => {},
): string {
  saw(layer);
  let attrs = attribute('id', layer.id);
  const style = blendStyle(layer.attrs);
  if (style) attrs += attribute('style', style);
  for (const [key, value] of Object.entries(layer.attrs)) {
    if (ONLY_IN_STYLE.has(key)) continue;
    if (key === 'href' && layer.tag === 'image') {
      const blob = pictures(value.slice('blob:'.length));
      if (blob) attrs += ` xlink:href="data:${blob.mediaType};base64,${toBase64(blob.bytes)}"`;
    } else attrs += attribute(key === 'href' ? 'xlink:href' : key, value);
  }
  if (layer.transform) attrs += attribute('transform', `matrix(${layer.transform.join(' ')})`);
  if (layer.opacity < 1) attrs += attribute('opacity', String(layer.opacity));
  if (!layer.shown) attrs += ' display="none"';
  if (layer.name) attrs += attribute('data-name', layer.name);
  let paths = '';
  const runs = (layer.text ?? []).map((run, i) => {
    const { path, startOffset, side, ...rest } = run.attrs;
    const own = Object.entries(rest).map(([key, value]) => attribute(key, value));
    const letters = `<tspan${own.join('')}>${escapeText(run.text)}</tspan>`;
    if (!path) return letters;
    // Programs know paths of text by reference only.
    const id = `${layer.id}-path-${i + 1}`;
    paths += `<path${attribute('id', id)}${attribute('d', path)}/>`;
    return `<textPath${attribute('xlink:href', `#${id}`)}${attribute('startOffset', startOffset ?? '0')}${side ? attribute('side', side) : ''}>${letters}</textPath>`;
  });
  const inner = layer.text
    ? runs.join('')
    : doc
        .children(layer.id)
        .map((child) => writeLiveLayer(doc, child, pictures, saw))
        .join('');
  const before = paths && `<defs>${paths}</defs>`;
  return inner ? `${before}<${layer.tag}${attrs}>${inner}</${layer.tag}>` : `<${layer.tag}${attrs}/>`;
}

/**
 * Some layers as a stand-alone SVG of their own size, for the clipboard: with the definitions they use, and
 * what their groups gave them. Null when they draw nothing.
 */
export function layersAsSvg(doc: ProjectDocument, ids: Iterable<string>, pictures: Pictures): string | null {
  const tops = outermost(doc, ids);
  const box = boundsOfLayers(
    doc,
    tops.map((layer) => layer.id),
  );
  if (!box) return null;
  const wanted: string[] = [];
  const saw = (layer: Layer) => {
    for (const [, id] of layerReferences(layer)) wanted.push(id);
  };
  const body = tops
    .map((top) => {
      const transform = multiply(translate(-box.minX, -box.minY), layerToPlane(doc, top));
      return writeLiveLayer(
        doc,
        { ...withInherited(doc, top, ROOT), transform: isIdentity(transform) ? undefined : transform },
        pictures,
        saw,
      );
    })
    .join('');
  const defs = new Map<string, string>();
  for (let i = 0; i < wanted.length; i++) {
    const definition = doc.find('layer', wanted[i]);
    if (!definition || definition.parentId !== DEFS || defs.has(definition.id)) continue;
    defs.set(definition.id, '');
    defs.set(definition.id, writeLiveLayer(doc, definition, pictures, saw));
  }
  const [w, h] = [printNumber(box.maxX - box.minX), printNumber(box.maxY - box.minY)];
  const xlink = [body, ...defs.values()].some((text) => text.includes('xlink:')) ? ` xmlns:xlink="${XLINK_NS}"` : '';
  return `<svg xmlns="${SVG_NS}"${xlink} width="${w}" height="${h}" viewBox="0 0 ${w} ${h}">${defs.size > 0 ? `<defs>${[...defs.values()].join('')}</defs>` : ''}${body}</svg>`;
}
