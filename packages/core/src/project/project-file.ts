import * as z from 'zod';
import { type Tell, type Told, teller } from '../artwork/markup/told';
import {
  escapeAttribute,
  escapeText,
  isElement,
  SVG_NS,
  TOLVIK_NS,
  XLINK_NS,
  type XmlElement,
} from '../artwork/markup/xml';
import { fromBase64, type StoredBlob, toBase64 } from '../artwork/pictures/pictures';
import { parseSvg } from '../artwork/reading/parse-svg';
import { resolveTree } from '../artwork/reading/resolve';
import { toLayers } from '../artwork/reading/to-layers';
import { fontType } from '../artwork/text/fonts';
import { inputWords } from '../basics/input-words';
import { refuse } from '../basics/problem';
import { sha256Hex } from '../basics/sha256';
import type { Pictures } from '../compose/write-layers';
import { DEFS, ProjectDocument, ROOT } from '../document/document';
import { ordersAfter } from '../document/order';
import { anyRecord, type Layer, layerRecord, type ProjectRecord, recordId } from '../document/records';
import { pieces } from '../pieces/pieces';
import { writeLiveLayer } from './live-svg';

export const PROJECT_FORMAT_VERSION = 1;

const layerMark = layerRecord
  .pick({ name: true, drawnName: true, order: true, locked: true, benchOnly: true, text: true, hold: true })
  .partial();
const metadata = z.object({
  version: z.number().int(),
  /** Which project it is: folders that it writes to are known by it. */
  id: recordId.optional(),
  name: z.string().max(300),
  records: z.array(anyRecord).max(200_000),
  layers: z.record(z.string(), layerMark),
  /** Fonts added to the project, base64 by hash. */
  fonts: z.record(z.string().regex(/^[0-9a-f]{64}$/), z.string().max(14_000_000)).optional(),
});

/**
 * The project as one plain SVG 2 file: the artwork as it is, each artboard and slice as a `<view>`,
 * everything else as JSON in `<metadata>`. Any vector editor can open it; a browser shows one artboard at `#name`, as
 * large as the window, since the root says no size of its own. `id` says which project it is.
 */
export function writeProjectFile(doc: ProjectDocument, name: string, pictures: Pictures, id?: string | null): string {
  const marks: Record<string, z.infer<typeof layerMark>> = {};
  const attribute = (key: string, value: string) => ` ${key}="${escapeAttribute(value)}"`;
  const write = (layer: Layer): string =>
    writeLiveLayer(doc, layer, pictures, ({ id, name: layerName, drawnName, order, locked, benchOnly, text, hold }) => {
      marks[id] = {
        name: layerName,
        ...(drawnName !== undefined && { drawnName }),
        order,
        ...(locked && { locked }),
        ...(benchOnly && { benchOnly }),
        ...(text && { text }),
        ...(hold && { hold }),
      };
    });
  const defs = doc.children(DEFS).map(write).join('');
  const artwork = doc.children(ROOT).map(write).join('\n');
  const list = pieces(doc);
  const taken = new Set<string>();
  const views = list
    .filter((piece) => !piece.problem && piece.kind !== 'edition')
    .map(({ name: pieceName, region }) => {
      let id = pieceName.replace(/\s+/g, '-').replace(/[^\p{L}\p{N}_.-]/gu, '') || 'piece';
      if (!/^[\p{L}_]/u.test(id)) id = `_${id}`;
      for (let n = 2, base = id; taken.has(id) || doc.get(id); n++) id = `${base}-${n}`;
      taken.add(id);
      return `<view${attribute('id', id)} viewBox="${region.x} ${region.y} ${region.width} ${region.height}"/>`;
    })
    .join('\n');
  // Always in the same order, so that what did not change stands where it stood.
  const records = [...doc.all()]
    .filter((record) => record.kind !== 'layer')
    .sort(
      (a, b) =>
        compareText(a.kind, b.kind) ||
        compareText('order' in a ? a.order : '', 'order' in b ? b.order : '') ||
        compareText(a.id, b.id),
    );
  const fonts = doc.list('font').flatMap(({ hash }) => {
    const blob = pictures(hash);
    return blob ? [[hash, toBase64(blob.bytes)]] : [];
  });
  const json = JSON.stringify({
    version: PROJECT_FORMAT_VERSION,
    ...(id && { id }),
    name,
    records,
    layers: marks,
    ...(fonts.length > 0 && { fonts: Object.fromEntries(fonts) }),
  } satisfies z.input<typeof metadata>);
  const regions = list.filter((piece) => !piece.problem).map((piece) => piece.region);
  const minX = Math.min(0, ...regions.map((r) => r.x));
  const minY = Math.min(0, ...regions.map((r) => r.y));
  const width = Math.max(1, ...regions.map((r) => r.x + r.width - minX));
  const height = Math.max(1, ...regions.map((r) => r.y + r.height - minY));
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="${SVG_NS}" xmlns:xlink="${XLINK_NS}" xmlns:tolvik="${TOLVIK_NS}" viewBox="${minX} ${minY} ${width} ${height}">
<title>${escapeText(name)}</title>
<metadata><tolvik:project>${escapeText(json)}</tolvik:project></metadata>
${defs ? `<defs>${defs}</defs>\n` : ''}${views}
${artwork}
</svg>
`;
}

const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

export type ReadProject = {
  id: string | null;
  name: string;
  records: ProjectRecord[];
  blobs: StoredBlob[];
  dropped: Told[];
};

function projectElement(root: XmlElement): XmlElement | undefined {
  for (const child of root.children) {
    if (!isElement(child) || child.tag !== 'metadata') continue;
    const found = child.children.find(
      (inner): inner is XmlElement => isElement(inner) && inner.foreign && inner.tag === 'project',
    );
    if (found) return found;
  }
  return undefined;
}

/** Whether SVG text is a project file rather than artwork alone; cheap, from its first part. */
export const looksLikeProjectFile = (text: string): boolean => text.slice(0, 4000).includes(TOLVIK_NS);

/**
 * Reads a project file back. The artwork goes through the same cleaning as any SVG; elements that
 * another editor added have no marks and are placed in front.
 */
export function readProjectFile(input: Uint8Array | string, file: string): ReadProject {
  const { tell, told } = teller();
  const root = parseSvg(input, file, tell);
  const holder = projectElement(root);
  if (!holder)
    return refuse('project.not', `${file} is an SVG without a Tolvik project in it`, {
      where: file,
      accepted: 'a project file saved by Tolvik, or bring it in as artwork',
    });
  let json: unknown;
  try {
    json = JSON.parse(holder.children.filter((part) => !isElement(part)).join(''));
  } catch {
    return refuse('project.broken', `${file} holds project data that is not JSON`, { where: file });
  }
  const version = (json as { version?: unknown })?.version;
  if (typeof version === 'number' && version > PROJECT_FORMAT_VERSION) {
    return refuse('project.version', `${file} was saved by a newer Tolvik (format ${version})`, {
      where: file,
      accepted: `format up to ${PROJECT_FORMAT_VERSION}`,
    });
  }
  const parsed = metadata.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return refuse(
      'project.broken',
      `${file} holds project data that does not fit: ${issue.path.join('.')}: ${inputWords(issue)}`,
      { where: file },
    );
  }
  const { records, layers: marks, name } = parsed.data;
  const wrapped: XmlElement = {
    ...root,
    children: root.children.filter((child) => !isElement(child) || !['view', 'metadata', 'title'].includes(child.tag)),
  };
  const { artwork, definitions } = resolveTree(wrapped, file, tell, { width: 100, height: 100 });
  // An id counts once; whoever has it next is somebody else.
  const taken = new Set<string>(records.map((record) => record.id));
  const marked = ({ id }: { id?: string }) =>
    id && Object.hasOwn(marks, id) && recordId.safeParse(id).success && !taken.has(id)
      ? (taken.add(id), id)
      : undefined;
  const made = toLayers(
    artwork,
    [...definitions, ...unusedDefinitions(wrapped, definitions, file, tell)],
    ROOT,
    tell,
    marked,
  );
  const inside = made.layers.filter((layer) => layer.id !== made.rootId);
  const parentOf = (layer: Layer) => (layer.parentId === made.rootId ? ROOT : layer.parentId);
  const markOf = ({ id }: Layer) => (Object.hasOwn(marks, id) ? marks[id] : undefined);
  /** What another editor added comes in front of all it lies beside. */
  const lastIn = new Map<string, string>();
  for (const layer of inside) {
    const { order } = markOf(layer) ?? {};
    const parent = parentOf(layer);
    if (order && order > (lastIn.get(parent) ?? '')) lastIn.set(parent, order);
  }
  const layers = inside.map((layer): Layer => {
    const mark = markOf(layer);
    const parentId = parentOf(layer);
    if (mark)
      return layerRecord.parse({
        ...layer,
        parentId,
        ...mark,
        name: mark.name ?? '',
        text: layer.tag === 'text' ? (mark.text ?? layer.text) : undefined,
      });
    const [order] = ordersAfter(lastIn.get(parentId) ?? null, 1);
    lastIn.set(parentId, order);
    return { ...layer, parentId, order };
  });
  const doc = new ProjectDocument([...records.filter((record) => record.kind !== 'layer'), ...layers]);
  return {
    id: parsed.data.id ?? null,
    name,
    records: [...doc.all()],
    blobs: [...made.blobs, ...fontBlobs(parsed.data.fonts ?? {}, tell)],
    dropped: told(),
  };
}

/** Fonts of a project file; one whose bytes are no font, or not the ones its hash says, is left out and told. */
function fontBlobs(fonts: Record<string, string>, tell: Tell): StoredBlob[] {
  return Object.entries(fonts).flatMap(([hash, text]) => {
    const bytes = fromBase64(text);
    const mediaType = fontType(bytes);
    if (mediaType && sha256Hex(bytes) === hash) return [{ hash, mediaType, bytes }];
    tell('a font whose bytes are damaged');
    return [];
  });
}

/** Definitions nothing refers to at the moment are kept too: a project is saved whole. */
function unusedDefinitions(root: XmlElement, known: readonly { id?: string }[], file: string, tell: Tell) {
  const have = new Set(known.map((definition) => definition.id));
  const defs = root.children.find((child): child is XmlElement => isElement(child) && child.tag === 'defs');
  const missing = (defs?.children ?? []).filter(
    (child): child is XmlElement => isElement(child) && !!child.attrs.id && !have.has(child.attrs.id),
  );
  if (missing.length === 0) return [];
  const uses = missing.map(
    (node): XmlElement => ({
      tag: 'g',
      foreign: false,
      attrs: { 'clip-path': `url(#${node.attrs.id})` },
      children: [],
    }),
  );
  const { definitions } = resolveTree({ ...root, children: [defs as XmlElement, ...uses] }, file, tell, {
    width: 100,
    height: 100,
  });
  return definitions.filter((definition) => !have.has(definition.id));
}
