import { escapeAttribute } from '../artwork/markup/xml';
import { type StoredBlob, toBase64 } from '../artwork/pictures/pictures';
import type { Fonts } from '../artwork/text/fonts';
import { outlineText, paintOnly } from '../artwork/text/outline-text';
import { withWords } from '../artwork/text/words';
import type { ProjectDocument } from '../document/document';
import type { Layer, LayerOverride } from '../document/records';
import type { Bounds, Matrix } from '../geometry/matrix';
import { invert, multiply, printNumber, printTransform, translate } from '../geometry/matrix';
import { stepsOf } from '../geometry/path-steps';
import { EFFECTS, HOLDS_TOGETHER, INHERITED } from '../profile/allow-list';
import { referred, withReferences } from '../profile/references';
import { blendStyle, ONLY_IN_STYLE } from './blend-style';
import type { FileIds } from './ids';
import { placedMarkers } from './markers';
import {
  AS_DRAWN,
  INITIAL_PAINT,
  PAINTS,
  pictureMatrix,
  type Recolouring,
  recolours,
  recolourValue,
  withInitialFill,
  withRule,
} from './paint';
import { paintInBox } from './paint-in-box';
import { ringPaint, runsOf } from './rings';

export type Pictures = (hash: string) => StoredBlob | undefined;

export type WriteOptions = {
  doc: ProjectDocument;
  fonts: Fonts;
  pictures: Pictures;
  ids: FileIds;
  keepNames: boolean;
  /** Leave `currentColor` for the page the SVG will live in; else it is written as a colour. */
  keepCurrentColor: boolean;
  overrides: Readonly<Record<string, LayerOverride>>;
  /** Layers to write (with their parents); null writes all. */
  only: ReadonlySet<string> | null;
  /** Bench-only layers are written too, for showing and never for files. */
  withBenchOnly?: boolean;
};

/** What composing noticed and a person should know. */
export type Noticed = {
  missingFonts: Set<string>;
  liveText: boolean;
  missingPictures: boolean;
  blobHashes: Set<string>;
};

/** What a layer takes from its parents. */
type Context = {
  style: Record<string, string>;
  matrix: Matrix;
  recolouring: Recolouring;
  all: boolean;
  /** Set while gaps are cut: how wide they are, in px of the outermost layers' parent. */
  ring?: number;
  /** What `context-fill` and `context-stroke` stand for inside a marker. */
  paints?: { fill: string; stroke: string };
};

/** Markers are drawn where they belong, so that every renderer draws them alike. */
const MARKERS = ['marker-start', 'marker-mid', 'marker-end'] as const;
const WITH_MARKERS = new Set(['path', 'line', 'polyline', 'polygon']);
/** Markers on the paths of markers. */
const DEEPEST_MARKERS = 4;

/**
 * Writes layers as SVG text with the definitions they use. One writer serves one file; its
 * definitions are complete once all its layers are written.
 */
export function layerWriter(options: WriteOptions) {
  const { doc, fonts, pictures, ids, keepNames, overrides } = options;
  const defs = new Map<string, string>();
  const noticed: Noticed = { missingFonts: new Set(), liveText: false, missingPictures: false, blobHashes: new Set() };

  const refer = (defId: string, recolouring: Recolouring): string => {
    const definition = doc.find('layer', defId);
    if (!definition) return '';
    const kept = definition.tag === 'mask' || definition.tag === 'clipPath' ? AS_DRAWN : recolouring;
    const key = `${defId}|${kept.key}`;
    const id = ids.idFor(key, definition.name);
    if (!defs.has(key)) {
      defs.set(key, '');
      defs.set(key, writeDefinition(definition, kept, id));
    }
    return id;
  };

  /** A definition that measures by a box, written for one box; '' where it measures by none. */
  function referInBox(paint: string, box: Bounds, recolouring: Recolouring): string {
    const definition = doc.find('layer', referred(paint) ?? '');
    const inUserSpace = definition ? paintInBox(definition, box) : null;
    if (!definition || !inUserSpace) return '';
    const key = `${definition.id}|${recolouring.key}|${JSON.stringify(box)}`;
    const id = ids.idFor(key, definition.name);
    written.add(id);
    if (!defs.has(key)) {
      defs.set(key, '');
      defs.set(key, writeDefinition(inUserSpace, recolouring, id));
    }
    return id;
  }
  /** Ids in the file, which stand for no layer. */
  const written = new Set<string>();

  function value(name: string, raw: string, context: Context): string {
    let text = raw;
    if (PAINTS.has(name)) {
      const around = /^context-(fill|stroke)$/i.exec(text)?.[1].toLowerCase() as 'fill' | 'stroke' | undefined;
      if (around) text = context.paints?.[around] ?? 'none';
      if (/^currentcolor$/i.test(text) && (!options.keepCurrentColor || recolours(context.recolouring)))
        text = currentColour(context);
      text = recolourValue(text, context.recolouring);
    }
    return withReferences(text, (id) => (written.has(id) ? id : refer(id, context.recolouring)));
  }

  const currentColour = ({ style }: Context) =>
    style.color && !/^currentcolor$/i.test(style.color) ? style.color : '#000';

  function attributes(attrs: Record<string, string>, context: Context): string {
    let text = '';
    for (const [name, raw] of Object.entries(attrs)) {
      if (name === 'href') {
        const id = refer(raw.slice(1), context.recolouring);
        if (id) text += ` xlink:href="#${id}"`;
        continue;
      }
      if ((name === 'color' && !options.keepCurrentColor) || name.startsWith('marker-') || ONLY_IN_STYLE.has(name))
        continue;
      text += ` ${name}="${escapeAttribute(value(name, raw, context))}"`;
    }
    const style = blendStyle(attrs);
    return style ? `${text} style="${escapeAttribute(style)}"` : text;
  }

  const inheritedOf = (attrs: Readonly<Record<string, string>>): Record<string, string> =>
    Object.fromEntries(Object.entries(attrs).filter(([name]) => INHERITED.has(name)));

  function writeDefinition(layer: Layer, recolouring: Recolouring, id: string): string {
    const context: Context = { style: inheritedOf(layer.attrs), matrix: [1, 0, 0, 1, 0, 0], recolouring, all: true };
    const inner = doc
      .children(layer.id)
      .map((child) =>
        layer.tag === 'clipPath' && child.tag === 'text' ? writeClipText(child, context) : writeLayer(child, context),
      )
      .join('');
    const transform = layer.transform ? ` transform="${printTransform(layer.transform)}"` : '';
    const open = `<${layer.tag} id="${escapeAttribute(id)}"${attributes(layer.attrs, context)}${transform}`;
    return inner ? `${open}>${inner}</${layer.tag}>` : `${open}/>`;
  }

  /** Layers from back to front; in one ink those that are set apart have a gap cut around them first. */
  function writeAll(layers: readonly Layer[], outer: Context): string {
    const { ink } = outer.recolouring;
    if (!ink || outer.ring !== undefined) return layers.map((layer) => writeLayer(layer, outer)).join('');
    const cutting: Context = { ...outer, recolouring: AS_DRAWN, ring: ink.gapPx };
    return runsOf(doc, layers, outer.style, ink)
      .map(
        ({ ring, layers: run }) =>
          (ring ? run.map((layer) => writeLayer(layer, cutting)).join('') : '') +
          run.map((layer) => writeLayer(layer, outer)).join(''),
      )
      .join('');
  }

  function writeLayer(layer: Layer, outer: Context): string {
    if (!outer.all && options.only && !options.only.has(layer.id)) return '';
    const override = overrides[layer.id];
    if (!(override?.shown ?? layer.shown) || (layer.benchOnly && !options.withBenchOnly)) return '';
    let matrix = layer.transform;
    if (override?.offset) {
      const moved = multiply(
        multiply(invert(outer.matrix), translate(override.offset.x, override.offset.y)),
        outer.matrix,
      );
      matrix = multiply(moved, layer.transform ?? [1, 0, 0, 1, 0, 0]);
    }
    const recolouring = override?.tint
      ? withRule(outer.recolouring, { kind: 'tint', colour: override.tint }, true)
      : outer.recolouring;
    const style = { ...outer.style };
    for (const name of Object.keys(layer.attrs)) if (INHERITED.has(name)) style[name] = layer.attrs[name];
    const context: Context = {
      style,
      matrix: matrix ? multiply(outer.matrix, matrix) : outer.matrix,
      recolouring,
      all: outer.all || EFFECTS.some((name) => name in layer.attrs),
      paints: outer.paints,
      ring: outer.ring,
    };
    const attrs: Record<string, string> = layer.tag === 'text' ? paintOnly(layer.attrs) : { ...layer.attrs };
    if (context.ring !== undefined && layer.tag !== 'g') {
      if (layer.tag === 'image') return '';
      Object.assign(attrs, ringPaint(style, context.ring, context.matrix));
    }
    if (override?.tint) {
      // Paint that came from above has not seen this tint yet.
      if (!('fill' in attrs)) attrs.fill = style.fill ?? '#000';
      if (!('stroke' in attrs) && style.stroke && style.stroke !== 'none') attrs.stroke = style.stroke;
    }
    const opacity = layer.opacity * (override?.opacity ?? 1);
    const transform = printTransform(matrix);
    const id =
      keepNames && layer.name && context.ring === undefined
        ? ` id="${escapeAttribute(ids.idFor(`layer ${layer.id}`, layer.name))}"`
        : '';
    const tail =
      (transform ? ` transform="${transform}"` : '') + (opacity < 1 ? ` opacity="${printNumber(opacity, 4)}"` : '');

    if (layer.tag === 'g') {
      const inner = writeAll(doc.children(layer.id), context);
      if (!inner) return '';
      const open = `${id}${attributes(attrs, context)}${tail}`;
      return open ? `<g${open}>${inner}</g>` : inner;
    }
    if (layer.tag === 'image') return writePicture(attrs, context, `${id}${tail}`);
    if (layer.tag === 'text')
      return writeText(
        override?.words === undefined ? layer : withWords(layer, override.words),
        attrs,
        context,
        `${id}${tail}`,
        outer.style,
      );
    if (
      context.ring === undefined &&
      WITH_MARKERS.has(layer.tag) &&
      MARKERS.some((name) => (style[name] ?? 'none') !== 'none')
    )
      return writeMarked(layer, attrs, context, `${id}${tail}`);
    const children = doc.children(layer.id);
    const inner = children.length > 0 ? children.map((child) => writeLayer(child, context)).join('') : '';
    const open = `<${layer.tag}${id}${attributes(attrs, context)}${tail}`;
    return inner ? `${open}>${inner}</${layer.tag}>` : `${open}/>`;
  }

  /** A path with its markers, in a group that has what holds for both. */
  function writeMarked(layer: Layer, attrs: Record<string, string>, context: Context, tail: string): string {
    const { style } = context;
    const markerOf = (name: (typeof MARKERS)[number]) => {
      const found = doc.find('layer', referred(style[name]) ?? '');
      return found?.tag === 'marker' ? found : undefined;
    };
    const strokeWidth = Number.parseFloat(style['stroke-width'] ?? '1');
    const placed =
      markersUnderWay > DEEPEST_MARKERS
        ? []
        : placedMarkers(
            stepsOf(layer),
            { start: markerOf('marker-start'), mid: markerOf('marker-mid'), end: markerOf('marker-end') },
            strokeWidth,
          );
    const effects = Object.fromEntries(
      Object.entries(attrs).filter(([name]) => HOLDS_TOGETHER.includes(name) || ONLY_IN_STYLE.has(name)),
    );
    const paint = Object.fromEntries(Object.entries(attrs).filter(([name]) => !(name in effects)));
    // A path that only carries markers shows nothing of its own.
    const shows = (style.fill ?? '#000') !== 'none' || (style.stroke ?? 'none') !== 'none';
    const path = shows ? `<${layer.tag}${attributes(paint, context)}/>` : '';
    if (placed.length === 0) return `<${layer.tag}${attributes(attrs, context)}${tail}/>`;
    const paints = { fill: style.fill ?? '#000', stroke: style.stroke ?? 'none' };
    // Markers take nothing from the path, so what is around it is said to be as at first.
    const reset = Object.fromEntries(
      Object.keys(INITIAL_PAINT).flatMap((name) => (name in style ? [[name, INITIAL_PAINT[name]]] : [])),
    );
    markersUnderWay++;
    const markers = placed.map(({ marker, matrix, clip }) => {
      const own = { ...reset, ...inheritedOf(marker.attrs) };
      const inside: Context = {
        style: inheritedOf(marker.attrs),
        matrix,
        recolouring: context.recolouring,
        all: true,
        paints,
      };
      const inner = doc
        .children(marker.id)
        .map((child) => writeLayer(child, inside))
        .join('');
      if (!inner) return '';
      let cut = '';
      if (clip) {
        const key = `marker ${marker.id}`;
        const id = ids.idFor(key);
        const [x, y, width, height] = clip.map((value) => printNumber(value));
        defs.set(key, `<clipPath id="${id}"><rect x="${x}" y="${y}" width="${width}" height="${height}"/></clipPath>`);
        cut = ` clip-path="url(#${id})"`;
      }
      const faded = marker.opacity < 1 ? ` opacity="${printNumber(marker.opacity, 4)}"` : '';
      return `<g${attributes(own, inside)} transform="${printTransform(matrix) || 'translate(0)'}"${cut}${faded}>${inner}</g>`;
    });
    markersUnderWay--;
    const first = /^markers/.test(style['paint-order'] ?? '');
    return `<g${tail}${attributes(effects, context)}>${first ? '' : path}${markers.join('')}${first ? path : ''}</g>`;
  }
  let markersUnderWay = 0;

  /** Letters that clip: one path, since a clip path holds no groups. */
  function writeClipText(layer: Layer, context: Context): string {
    const { runs, missing } = outlineText(layer, context.style, fonts);
    for (const family of missing) noticed.missingFonts.add(family);
    const d = runs.map((run) => run.d).join('');
    const transform = printTransform(layer.transform);
    return d
      ? `<path d="${d}"${attributes(paintOnly(layer.attrs), context)}${transform ? ` transform="${transform}"` : ''}/>`
      : '';
  }

  function writePicture(attrs: Record<string, string>, context: Context, tail: string): string {
    const hash = attrs.href?.slice('blob:'.length) ?? '';
    if (!pictures(hash)) {
      noticed.missingPictures = true;
      return '';
    }
    noticed.blobHashes.add(hash);
    const { href: _, ...rest } = attrs;
    const image = `<image${attributes(rest, context)}${tail} xlink:href="blob:${hash}"/>`;
    const matrix = pictureMatrix(context.recolouring);
    if (!matrix) return image;
    const key = `picture ${matrix}`;
    const id = ids.idFor(key);
    defs.set(
      key,
      `<filter id="${id}" x="0" y="0" width="1" height="1" color-interpolation-filters="sRGB"><feColorMatrix values="${matrix}"/></filter>`,
    );
    return `<g filter="url(#${id})">${image}</g>`;
  }

  function writeText(
    layer: Layer,
    attrs: Record<string, string>,
    context: Context,
    tail: string,
    inherited: Record<string, string>,
  ): string {
    noticed.liveText = true;
    const { runs, cells, missing } = outlineText(layer, inherited, fonts);
    for (const family of missing) noticed.missingFonts.add(family);
    // What measures by the text's box is the same for all its letters, whatever they are drawn in.
    const inBox = (own: Record<string, string>, paints: Record<string, string | undefined>) => {
      const made = { ...own };
      for (const name of ['fill', 'stroke'] as const) {
        const said = own[name] ?? paints[name];
        const id = said && cells ? referInBox(said, cells, context.recolouring) : '';
        if (said && id) made[name] = said.replace(/^\s*url\([^)]*\)/, `url(#${id})`);
      }
      return made;
    };
    // A gap is cut in the text's own paint, whatever its runs are painted with.
    const paths = runs.map(
      (run) => `<path d="${run.d}"${context.ring === undefined ? attributes(inBox(run.attrs, {}), context) : ''}/>`,
    );
    if (paths.length === 0) return '';
    return `<g${attributes(context.ring === undefined ? inBox(attrs, context.style) : attrs, context)}${tail}>${paths.join('')}</g>`;
  }

  return {
    /** Layers at the top, from back to front, with what is in them. */
    write(layers: readonly Layer[], recolouring: Recolouring): string {
      // Artwork that says no fill is black (SVG 2 §13.2), and recoloured as such.
      const said = recolours(recolouring)
        ? layers.map((layer) => ({ ...layer, attrs: withInitialFill(layer.attrs) }))
        : layers;
      return writeAll(said, { style: {}, matrix: [1, 0, 0, 1, 0, 0], recolouring, all: false });
    },
    /** `<defs>` with everything that was referred to, or ''. */
    definitions: () => (defs.size > 0 ? `<defs>${[...defs.values()].join('')}</defs>` : ''),
    noticed,
  };
}

const encoded = new WeakMap<StoredBlob, string>();
function base64Of(blob: StoredBlob): string {
  let text = encoded.get(blob);
  if (text === undefined) encoded.set(blob, (text = toBase64(blob.bytes)));
  return text;
}

/**
 * Puts pictures in place of their names. Content is composed, hashed and kept with names only, since
 * one picture may be in thousands of files.
 */
export const withPictures = (svg: string, pictures: Pictures): string =>
  svg.replace(/ xlink:href="blob:([0-9a-f]{64})"/g, (_, hash) => {
    const blob = pictures(hash);
    return blob ? ` xlink:href="data:${blob.mediaType};base64,${base64Of(blob)}"` : '';
  });
