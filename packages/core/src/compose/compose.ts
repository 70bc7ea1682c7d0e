import { layerToPlane } from '../artwork/bounds/bounds';
import { escapeAttribute, SVG_NS, XLINK_NS } from '../artwork/markup/xml';
import type { Fonts } from '../artwork/text/fonts';
import { sha256Hex } from '../basics/sha256';
import { byOrder, type ProjectDocument, ROOT } from '../document/document';
import type { Artboard, Layer, LayerOverride, Output, Slice } from '../document/records';
import { FORMATS } from '../formats';
import { type Bounds, boundsOf, multiply, overlaps, printNumber, printTransform, translate } from '../geometry/matrix';
import type { Region } from '../geometry/region';
import { pathDataOf } from '../geometry/shape-path';
import { artboardOf, type Piece } from '../pieces/pieces';
import { type FollowedLayout, followedLayout } from '../pieces/placements';
import type { FileToMake } from '../plan/plan';
import { guideMarkup } from './guide';
import { type FileIds, fileIds } from './ids';
import { layersIn, layersUnder } from './layers-in';
import type { ContentLook } from './look';
import type { PageText } from './page-words';
import { AS_DRAWN, asMask, type Recolouring, recolourValue, withRule } from './paint';
import { RENDERER_VERSION } from './renderer-version';
import { layerWriter, type Noticed, type Pictures } from './write-layers';

export type ComposeSources = { fonts: Fonts; pictures: Pictures };

/** The drawing of one piece in px from the upper left corner of its region, before it has a size; its hash is made when asked for. */
export type PieceContent = { defs: string; body: string; ids: FileIds; noticed: Noticed; readonly hash: string };

/** Those of a set that have no parent, from back to front; costs by the set, not by the project. */
function topLayers(doc: ProjectDocument, only: ReadonlySet<string>): readonly Layer[] {
  const tops: Layer[] = [];
  for (const id of only) {
    const layer = doc.find('layer', id);
    if (layer?.parentId === ROOT) tops.push(layer);
  }
  return tops.sort(byOrder);
}

const NO_OVERRIDES = {};

/**
 * Composes what a piece shows: only the layers that touch it, hidden and bench-only ones left out,
 * text as outlines, only the definitions in use. Deterministic: record ids never reach the result.
 * `ids` is given when several contents go into one file.
 */
export function composeContent(
  doc: ProjectDocument,
  piece: Piece,
  look: ContentLook,
  { fonts, pictures }: ComposeSources,
  ids: FileIds = fileIds(look.keepNames),
): PieceContent {
  const parts: string[] = [];
  const { region } = piece;
  const box = boundsOf(region);
  const record = piece.record;
  const artboard = artboardOf(doc, record);
  const overrides = record.kind === 'edition' ? record.overrides : NO_OVERRIDES;
  const output = withRule(AS_DRAWN, look.recolour);
  let defs = '';
  let noticed: Noticed = { missingFonts: new Set(), liveText: false, missingPictures: false, blobHashes: new Set() };

  /** Draws part of the plane, moved so that (x, y) becomes the origin. */
  const draw = (
    x: number,
    y: number,
    only: Set<string>,
    recolouring: Recolouring,
    writerOverrides: Readonly<Record<string, LayerOverride>>,
  ) => {
    const writer = layerWriter({
      doc,
      fonts,
      pictures,
      ids,
      keepNames: look.keepNames,
      keepCurrentColor: look.purpose === 'svg',
      overrides: writerOverrides,
      only,
      withBenchOnly: look.withBenchOnly,
    });
    const moved = topLayers(doc, only).map((layer) => {
      const matrix = multiply(translate(-x, -y), layer.transform ?? [1, 0, 0, 1, 0, 0]);
      return { ...layer, transform: matrix.map((value) => +value.toFixed(9)) as typeof matrix };
    });
    const drawn = writer.write(moved, recolouring);
    defs += writer.definitions();
    noticed = merge(noticed, writer.noticed);
    return drawn;
  };

  /** What a following artboard shows of its sources, recoloured, from its own upper left corner. */
  const drawFollowed = (
    follower: Artboard,
    layout: FollowedLayout,
    writerOverrides: Readonly<Record<string, LayerOverride>>,
  ): string => {
    const rule = follower.follows?.rule;
    const ink = rule?.kind === 'ink' ? rule : null;
    const recolouring = ink ? asMask(ink) : withRule(output, rule, true);
    const drawn = layout.placements.map(({ source, x, y, scale }) => {
      const inner = draw(
        source.x,
        source.y,
        layersIn(doc, boundsOf(source), writerOverrides),
        recolouring,
        writerOverrides,
      );
      const place = x === 0 && y === 0 && scale === 1 ? '' : printTransform([scale, 0, 0, scale, x, y]);
      return inner && place ? `<g transform="${place}">${inner}</g>` : inner;
    });
    if (ink) {
      const mask = ids.inkMask();
      const [width, height] = [printNumber(follower.width), printNumber(follower.height)];
      defs += `<defs><mask id="${mask}" maskUnits="userSpaceOnUse" x="0" y="0" width="${width}" height="${height}">${drawn.join('')}</mask></defs>`;
      drawn.splice(
        0,
        drawn.length,
        `<rect width="${width}" height="${height}" fill="${recolourValue(ink.colour, output)}" mask="url(#${mask})"/>`,
      );
    }
    if (follower.follows?.lockup?.guide) drawn.push(guideMarkup(layout, follower, fonts));
    return drawn.join('');
  };

  const followed = artboard && followedLayout(doc, artboard);
  if (artboard && followed) {
    if (typeof followed !== 'string') parts.push(drawFollowed(artboard, followed, overrides));
  } else if (record.kind === 'slice' && record.source.kind === 'layer') {
    parts.push(draw(region.x, region.y, layersUnder(doc, record.source.layerId), output, overrides));
  } else {
    if (!artboard && look.grounds) parts.push(artboardGrounds(doc, box));
    parts.push(draw(region.x, region.y, layersIn(doc, box, overrides), output, overrides));
    if (!artboard)
      for (const follower of doc.list('artboard'))
        if (follower.follows && overlaps(boundsOf(follower), box)) parts.push(drawFollower(follower));
  }

  function drawFollower(follower: Artboard): string {
    const layout = followedLayout(doc, follower);
    if (!layout || typeof layout === 'string') return '';
    const inner = drawFollowed(follower, layout, NO_OVERRIDES);
    if (!inner) return '';
    const clip = ids.idFor(`follower ${follower.order}`);
    defs += `<defs><clipPath id="${clip}"><rect width="${printNumber(follower.width)}" height="${printNumber(follower.height)}"/></clipPath></defs>`;
    return `<g transform="${printTransform(translate(follower.x - region.x, follower.y - region.y))}"><g clip-path="url(#${clip})">${inner}</g></g>`;
  }

  let body = parts.join('');
  if (record.kind === 'slice' && record.shape.kind !== 'rectangle') {
    const shape = sliceShapeMarkup(doc, record, region);
    if (shape) {
      const clip = ids.idFor('slice shape');
      defs += `<defs><clipPath id="${clip}">${shape}</clipPath></defs>`;
      body = `<g clip-path="url(#${clip})">${body}</g>`;
    }
  }
  let hash: string | undefined;
  return {
    defs,
    body,
    ids,
    noticed,
    get hash() {
      hash ??= sha256Hex(`${defs}\n${body}`);
      return hash;
    },
  };

  function artboardGrounds(d: ProjectDocument, area: Bounds): string {
    return d
      .list('artboard')
      .filter((board) => board.background && overlaps(boundsOf(board), area))
      .map(
        (board) =>
          `<rect x="${printNumber(board.x - region.x)}" y="${printNumber(board.y - region.y)}" width="${printNumber(board.width)}" height="${printNumber(board.height)}" fill="${board.background}"/>`,
      )
      .join('');
  }
}

function merge(a: Noticed, b: Noticed): Noticed {
  return {
    missingFonts: new Set([...a.missingFonts, ...b.missingFonts]),
    liveText: a.liveText || b.liveText,
    missingPictures: a.missingPictures || b.missingPictures,
    blobHashes: new Set([...a.blobHashes, ...b.blobHashes]),
  };
}

function sliceShapeMarkup(doc: ProjectDocument, { shape }: Slice, { x, y, width, height }: Region): string {
  const [w, h] = [printNumber(width), printNumber(height)];
  switch (shape.kind) {
    case 'rectangle':
      return '';
    case 'rounded':
      return `<rect width="${w}" height="${h}" rx="${printNumber(Math.min(shape.radius, width / 2, height / 2))}"/>`;
    case 'ellipse':
      return `<ellipse cx="${printNumber(width / 2)}" cy="${printNumber(height / 2)}" rx="${printNumber(width / 2)}" ry="${printNumber(height / 2)}"/>`;
    case 'outline': {
      const layer = doc.find('layer', shape.layerId);
      if (!layer) return '';
      const transform = printTransform(multiply(translate(-x, -y), layerToPlane(doc, layer)));
      const at = transform ? ` transform="${transform}"` : '';
      const { attrs, tag } = layer;
      if (tag === 'rect' || tag === 'circle' || tag === 'ellipse') {
        const geometry = Object.entries(attrs).filter(([name]) => /^(x|y|cx|cy|r|rx|ry|width|height)$/.test(name));
        return `<${tag}${geometry.map(([name, value]) => ` ${name}="${escapeAttribute(value)}"`).join('')}${at}/>`;
      }
      const d = pathDataOf(tag, attrs);
      return d ? `<path d="${escapeAttribute(d)}"${at}/>` : '';
    }
  }
}

/** A page of a file, its size in px, what its bookmark says, and words that are set as text. */
export type ComposedPage = {
  svg: string;
  widthPx: number;
  heightPx: number;
  title: string;
  texts?: readonly PageText[];
};

export type ComposedFile = {
  /** A stand-alone SVG: no script, no style sheet, no reference outside itself but pictures by their names, `blob:` and hash. */
  svg: string;
  /** SHA-256 of all that decides the bytes; equal keys mean equal files. */
  key: string;
  /** Set for a file of several pages. */
  pages?: readonly ComposedPage[];
  /** Hashes of the pictures it shows. */
  pictures: readonly string[];
};

/** The key of a file whose content is known, without building its SVG. */
export function renderKey(
  content: PieceContent,
  file: FileToMake,
  output: Output,
  ground: string | null,
  region: Region,
): string {
  const { view, widthPx, heightPx, dpi } = file;
  const offset = [view.x - region.x, view.y - region.y, view.width, view.height].map((value) => printNumber(value));
  const vector = !FORMATS[file.format].raster;
  return sha256Hex(
    JSON.stringify([
      RENDERER_VERSION,
      content.hash,
      output.settings,
      widthPx,
      heightPx,
      vector ? 0 : dpi,
      ground,
      offset,
      region.width,
      region.height,
    ]),
  );
}

/** One file as a stand-alone, fully resolved SVG of exactly its planned size; pictures stand in it by their names, see `withPictures`. */
export function composeFile(content: PieceContent, file: FileToMake, ground: string | null, region: Region): string {
  const { view, widthPx, heightPx } = file;
  const x = view.x - region.x;
  const y = view.y - region.y;
  let { defs, body } = content;
  const showsMore =
    x < -1e-6 ||
    y < -1e-6 ||
    view.width > region.width + 1 / file.scale ||
    view.height > region.height + 1 / file.scale;
  if (showsMore && body) {
    const clip = content.ids.idFor('view');
    defs += `<defs><clipPath id="${clip}"><rect width="${printNumber(region.width)}" height="${printNumber(region.height)}"/></clipPath></defs>`;
    body = `<g clip-path="url(#${clip})">${body}</g>`;
  }
  const viewBox = [x, y, view.width, view.height].map((value) => printNumber(value)).join(' ');
  const paint = ground
    ? `<rect${x ? ` x="${printNumber(x)}"` : ''}${y ? ` y="${printNumber(y)}"` : ''} width="${printNumber(view.width)}" height="${printNumber(view.height)}" fill="${ground}"/>`
    : '';
  const xlink = body.includes('xlink:') || defs.includes('xlink:') ? ` xmlns:xlink="${XLINK_NS}"` : '';
  return `<svg xmlns="${SVG_NS}"${xlink} width="${printNumber(widthPx)}" height="${printNumber(heightPx)}" viewBox="${viewBox}">${defs}${paint}${body}</svg>`;
}
