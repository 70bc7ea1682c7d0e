import { refuse } from '../../basics/problem';
import { DEFS } from '../../document/document';
import { newId } from '../../document/ids';
import { ordersAfter } from '../../document/order';
import { type Layer, layerRecord, MAX_TEXT, type TextRun } from '../../document/records';
import { isIdentity, MATRIX_LIMIT, parseTransform, printNumber } from '../../geometry/matrix';
import { withReferences } from '../../profile/references';
import { plainText } from '../../profile/values';
import { LIMITS } from '../markup/limits';
import type { Tell } from '../markup/told';
import { blobFromDataUri, type PictureFacts, pictureFacts, type StoredBlob } from '../pictures/pictures';
import type { CleanElement } from './clean-element';

const MAX_PICTURE_PIXELS = 200_000_000;

/**
 * Clean elements as layer records. Every element gets a new id; `url(#…)` and `href` follow, so
 * that any number of files share one project without a clash.
 */
export function toLayers(
  artwork: CleanElement,
  definitions: readonly CleanElement[],
  parentId: string,
  tellOf: Tell,
  fixedIds?: (element: CleanElement) => string | undefined,
) {
  const layers: Layer[] = [];
  const blobs = new Map<string, StoredBlob>();
  const ids = new Map<string, string>();

  for (const element of definitions) if (element.id) ids.set(element.id, fixedIds?.(element) ?? newId());

  const toLayers = (value: string) => withReferences(value, (id) => ids.get(id));

  function attributesOf(element: CleanElement): Record<string, string> {
    const attrs: Record<string, string> = {};
    for (const [name, value] of Object.entries(element.attrs)) {
      if (name === 'transform' || name === 'opacity' || name === 'display') continue;
      if (name === 'href' && element.tag !== 'image') {
        const target = ids.get(value.slice(1));
        if (target) attrs.href = `#${target}`;
      } else attrs[name] = name === 'href' ? value : toLayers(value);
    }
    return attrs;
  }

  const refersToLayers = (run: TextRun): TextRun => ({
    ...run,
    attrs: Object.fromEntries(Object.entries(run.attrs).map(([name, value]) => [name, toLayers(value)])),
  });

  function add(element: CleanElement, parent: string, order: string, id: string, depth = 1): void {
    if (depth > LIMITS.depth + 20)
      refuse('svg.depth', `its groups are more than ${LIMITS.depth} deep once parts used again are in their places`, {
        accepted: `groups up to ${LIMITS.depth} deep`,
      });
    const tell: Tell = (what) => tellOf(what, element.name);
    const attrs = attributesOf(element);
    if (element.tag === 'image') {
      const blob = blobFromDataUri(attrs.href ?? '');
      if (!blob) return tell('a picture whose bytes are not a picture');
      const facts = pictureFacts(blob.bytes);
      if (facts && facts.width * facts.height > MAX_PICTURE_PIXELS)
        return tell(`a picture of ${facts.width} × ${facts.height} px`);
      if (facts) sized(attrs, facts);
      if (facts?.inks) tell('a picture in the colours of print (CMYK), which programs show differently');
      blobs.set(blob.hash, blob);
      attrs.href = `blob:${blob.hash}`;
    }
    const read = element.attrs.transform === undefined ? undefined : parseTransform(element.attrs.transform);
    const transform = read?.every((value) => Math.abs(value) <= MATRIX_LIMIT) ? read : undefined;
    if (element.attrs.transform !== undefined && !transform)
      tell(`a transform that cannot be read ("${element.attrs.transform.slice(0, 40)}")`);
    const opacity = parseOpacity(element.attrs.opacity);
    const text = element.tag === 'text' ? runsOf(element, tell).map(refersToLayers) : undefined;
    if (text) tellOfLetters(attrs, text, tell);
    if (element.tag === 'text' && text?.length === 0) return;
    layers.push(
      layerRecord.parse({
        id,
        kind: 'layer',
        parentId: parent,
        order,
        tag: element.tag,
        name:
          element.name ||
          (text
            ? plainText(
                text
                  .map((run) => run.text)
                  .join('')
                  .trim(),
                60,
              )
            : ''),
        shown: element.attrs.display !== 'none',
        transform: isIdentity(transform) ? undefined : transform,
        opacity,
        attrs,
        text,
      }),
    );
    if (text) return;
    const children = element.children.filter((child): child is CleanElement => typeof child !== 'string');
    const orders = ordersAfter(null, children.length);
    for (let i = 0; i < children.length; i++)
      add(children[i], id, orders[i], fixedIds?.(children[i]) ?? newId(), depth + 1);
  }

  const orders = ordersAfter(null, definitions.length);
  for (let i = 0; i < definitions.length; i++) {
    const id = (definitions[i].id && ids.get(definitions[i].id as string)) || newId();
    add(definitions[i], DEFS, orders[i], id);
  }
  const rootId = fixedIds?.(artwork) ?? newId();
  add(artwork, parentId, ordersAfter(null, 1)[0], rootId);
  return { layers, blobs: [...blobs.values()], rootId };
}

/** A picture that says no size has its own, or keeps its shape (SVG 2 §12.3). */
function sized(attrs: Record<string, string>, { width, height }: PictureFacts): void {
  const [w, h] = [Number.parseFloat(attrs.width ?? ''), Number.parseFloat(attrs.height ?? '')];
  if (!(w >= 0)) attrs.width = printNumber(h >= 0 ? (h * width) / height : width);
  if (!(h >= 0)) attrs.height = printNumber(w >= 0 ? (w * height) / width : height);
}

/** What letters ask for that outlines here do not give. */
function tellOfLetters(attrs: Readonly<Record<string, string>>, runs: readonly TextRun[], tell: Tell): void {
  const all = [attrs, ...runs.map((run) => run.attrs)];
  if (all.some((each) => /^(tb|vertical)/i.test(each['writing-mode'] ?? '')))
    tell(
      `text set from top to bottom, ${runs.some((run) => UPRIGHT.test(run.text)) ? 'all of its letters laid on their side' : 'its letters centred as the font measures them'}`,
    );
  if (all.some((each) => /small-caps/i.test(each['font-variant'] ?? '')))
    tell('small capitals, made of capitals at seven tenths of their size');
  if (
    all.some((each) =>
      /^(?!auto$|alphabetic$|baseline$)./i.test(each['dominant-baseline'] ?? each['alignment-baseline'] ?? ''),
    )
  )
    tell('letters aligned by another baseline than their own, placed as the font measures it');
  if (all.some((each) => /underline|overline|line-through/i.test(each['text-decoration'] ?? '')))
    tell('lines under, over or through letters, placed by the size of the letters');
  if (all.some((each) => /^(super|sub)$|[1-9]/i.test(each['baseline-shift'] ?? '')))
    tell('raised or lowered letters, placed by their size');
}

/** Letters that stand upright in text that goes from top to bottom (Unicode Standard Annex 50). */
const UPRIGHT = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u;

function parseOpacity(text: string | undefined): number {
  if (text === undefined) return 1;
  const value = text.trim().endsWith('%') ? Number.parseFloat(text) / 100 : Number(text);
  return Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : 1;
}

/** As many runs as a layer may have, with as many letters; what is cut off is told. */
function bounded(runs: TextRun[], tell: Tell): TextRun[] {
  const kept: TextRun[] = [];
  let left = MAX_TEXT;
  for (const run of runs) {
    if (left <= 0 || kept.length > MAX_TEXT) {
      tell(`text beyond ${MAX_TEXT.toLocaleString('en')} letters`);
      break;
    }
    const words = plainText(run.text, left);
    left -= run.text.length;
    if (left < 0) tell(`text beyond ${MAX_TEXT.toLocaleString('en')} letters`);
    kept.push({ ...run, text: words });
  }
  return kept;
}

const POSITIONS = ['x', 'y', 'dx', 'dy', 'rotate'] as const;
/** A stretch of text and what says where its letters stand: its elements from the outermost, with the run each begins with. */
type Stretch = { text: string; attrs: Record<string, string>; within: readonly { node: CleanElement; from: number }[] };

/** Text content as runs, white space collapsed as SVG 2 §11.7 (`white-space: normal`) says. */
function runsOf(element: CleanElement, tell: Tell): TextRun[] {
  const stretches: Stretch[] = [];
  const visit = (node: CleanElement, attrs: Record<string, string>, within: Stretch['within']) => {
    for (const child of node.children) {
      if (typeof child === 'string') {
        const text = child.replace(/[ \t\n\r]+/g, ' ');
        if (text) stretches.push({ text, attrs, within });
      } else
        visit(child, { ...attrs, ...withoutPosition(child.attrs) }, [
          ...within,
          { node: child, from: stretches.length },
        ]);
    }
  };
  visit(element, {}, []);
  let endsInSpace = true;
  for (const stretch of stretches) {
    if (endsInSpace) stretch.text = stretch.text.replace(/^ /, '');
    endsInSpace = stretch.text.endsWith(' ') || (stretch.text === '' && endsInSpace);
  }
  const last = stretches.findLast(({ text }) => text !== '');
  if (last) last.text = last.text.replace(/ $/, '');
  const starts: number[] = [0];
  for (const { text } of stretches) starts.push((starts.at(-1) as number) + [...text].length);
  let before: { node: CleanElement; said: string } | null = null;
  const runs = stretches.flatMap(({ text, attrs, within }, i): TextRun[] => {
    if (!text) return [];
    const stretched = within.filter(({ node }) => 'textLength' in node.attrs);
    if (stretched.length + ('textLength' in element.attrs ? 1 : 0) > 1)
      tell('text stretched to a length inside text stretched to a length');
    const node = stretched.at(-1)?.node;
    let length = node?.attrs.textLength ?? '';
    // Runs that say the same length are stretched as one; the next element says it in other digits.
    if (node && before && before.node !== node && before.said === length) length += length.includes('.') ? '0' : '.0';
    before = node ? { node, said: length } : null;
    const fit = node && { textLength: length, ...pickOf(node.attrs, 'lengthAdjust') };
    return [{ text, attrs: { ...attrs, ...fit, ...positionsOf(starts[i], starts[i + 1], within, starts) } }];
  });
  return bounded(runs, tell);
}

const pickOf = (attrs: Readonly<Record<string, string>>, name: string): Record<string, string> =>
  name in attrs ? { [name]: attrs[name] } : {};

/** What the elements around some letters say of each: the innermost that speaks of it (SVG 2 §11.5, step 3). */
function positionsOf(
  from: number,
  to: number,
  within: Stretch['within'],
  starts: readonly number[],
): Record<string, string> {
  const said: Record<string, string> = {};
  for (const name of POSITIONS) {
    let list: (string | undefined)[] = [];
    for (const { node, from: first } of within) {
      const own = node.attrs[name]?.split(/[\s,]+/).filter(Boolean) ?? [];
      if (own.length === 0) continue;
      const begun = from - starts[first];
      const rest = own.slice(begun, begun + to - from);
      // The last turn is that of all letters after it.
      if (name === 'rotate' && rest.length === 0) rest.push(own[own.length - 1]);
      list = name === 'rotate' ? rest : [...rest, ...list.slice(rest.length)];
    }
    if (list.length > 0) said[name] = list.join(' ');
  }
  return said;
}

/** Attributes that are said of single letters or of all together, and not of the letters of parts of it. */
const OF_ELEMENT: ReadonlySet<string> = new Set([...POSITIONS, 'textLength', 'lengthAdjust']);
const withoutPosition = (attrs: Readonly<Record<string, string>>): Record<string, string> =>
  Object.fromEntries(Object.entries(attrs).filter(([name]) => !OF_ELEMENT.has(name)));
