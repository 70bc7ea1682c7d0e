import { refuse } from '../problem';
import { ATTRIBUTES, DEFINITIONS, DRAWN, INSIDE_DEFINITIONS, LENGTHS_DIAGONAL, LENGTHS_X, LENGTHS_Y, NOT_NEGATIVE, PRESENTATION, TOLD_WHEN_DROPPED } from './allow-list';
import { LIMITS } from './limits';
import { IDENTITY, multiply, printTransform, translate } from './matrix';
import { nameOf } from './names';
import { styleDeclarations } from './style-sheets';
import { allowedValue, plainText } from './values';
import { parseLength, parseViewBox, viewBoxTransform } from './viewport';
import { isElement, type XmlElement } from './xml';

/** An element after resolution: only allowed tags and attributes, no `use`, `symbol` or nested `svg`. */
export type CleanElement = {
  tag: string;
  name: string;
  /** The id it had in the file, for references; copies made from `use` have none. */
  id?: string;
  attrs: Record<string, string>;
  children: (CleanElement | string)[];
};

export type Tell = (what: string) => void;

/** What is told of a value that was left out. */
const whyNot = (name: string, value: string): string =>
  /script:/i.test(value) ? 'a script' : /[(:]/.test(value) ? 'a reference to something outside the file' : `a ${name} that cannot be read ("${plainText(value, 40)}")`;

type Viewport = { width: number; height: number };

const TEXT_CONTENT = new Set(['text', 'tspan']);
/** A reference as `allowedValue` writes it. */
const LOCAL_URL = /url\(#([^)]+)\)/;

const PICTURE_DATA = /^data:image\/(png|jpe?g|webp|gif);base64,([A-Za-z0-9+/=\s]+)$/i;

/**
 * Takes a parsed file apart into clean elements: what is drawn, and definitions with the ids that
 * refer to them. Everything left out is told in a few words, once a kind.
 */
export function resolveTree(root: XmlElement, file: string, tell: Tell, viewport: Viewport) {
  const byId = new Map<string, XmlElement>();
  const index = (node: XmlElement) => {
    if (node.attrs.id && !byId.has(node.attrs.id)) byId.set(node.attrs.id, node);
    for (const child of node.children) if (isElement(child)) index(child);
  };
  index(root);

  const definitions: CleanElement[] = [];
  const definedNodes = new Set<XmlElement>();
  let defining = 0;
  let elements = 0;
  const count = () => {
    if (++elements > LIMITS.expandedElements) {
      refuse('svg.use', `${file} grows beyond ${LIMITS.expandedElements.toLocaleString('en')} elements when its <use> copies are resolved`, {
        where: file,
        accepted: 'repeated parts that add up to fewer elements',
      });
    }
  };

  function attributes(node: XmlElement, view: Viewport): Record<string, string> {
    const attrs: Record<string, string> = {};
    const put = (name: string, raw: string) => {
      const text = raw.trim();
      if (name === 'href' || name === 'xlink:href') return;
      if (/^on[a-z]/i.test(name)) return tell('an event attribute (script)');
      if (!ATTRIBUTES.has(name)) return;
      const value = allowedValue(name, text);
      if (value === null) return tell(whyNot(name, text));
      if (PRESENTATION.has(name) && (value === '' || value === 'inherit')) return;
      const isX = LENGTHS_X.has(name);
      const isY = LENGTHS_Y.has(name);
      if (isX || isY || LENGTHS_DIAGONAL.has(name)) {
        const inBox = boundingBoxUnits(node);
        const full = inBox ? 1 : isX ? view.width : isY ? view.height : Math.hypot(view.width, view.height) / Math.SQRT2;
        if (/[\s,]/.test(value) && TEXT_CONTENT.has(node.tag)) {
          attrs[name] = value
            .split(/[\s,]+/)
            .map((part) => String(parseLength(part, full) ?? 0))
            .join(' ');
          return;
        }
        const length = parseLength(value, full);
        if (length === undefined) {
          if (/^(normal|auto|medium|inherit)$/.test(value)) return;
          return tell(`a ${name} that is not a number ("${value.slice(0, 20)}")`);
        }
        if (length < 0 && NOT_NEGATIVE.has(name)) return tell(`a negative ${name}`);
        attrs[name] = String(+length.toFixed(6));
        return;
      }
      if ((name === 'transform' || name === 'd' || name === 'points' || name === 'opacity') && /NaN|Infinity/i.test(value)) return tell(`a ${name} with NaN or Infinity`);
      attrs[name] = value;
    };
    for (const [name, value] of Object.entries(node.attrs)) if (name !== 'style') put(name, value);
    if (node.attrs.style)
      for (const [name, value] of styleDeclarations(node.attrs.style)) if (PRESENTATION.has(name) || name === 'transform') put(name, name === 'transform' ? value.replace(/(px|deg)/g, '') : value);
    return attrs;
  }

  /** Gradients, clips and the like measure in their object's box unless they say otherwise. */
  function boundingBoxUnits(node: XmlElement): boolean {
    const { gradientUnits, patternUnits, maskUnits, filterUnits } = node.attrs;
    if (node.tag === 'linearGradient' || node.tag === 'radialGradient') return gradientUnits !== 'userSpaceOnUse';
    if (node.tag === 'pattern') return patternUnits !== 'userSpaceOnUse';
    if (node.tag === 'mask') return maskUnits !== 'userSpaceOnUse';
    if (node.tag === 'filter') return filterUnits !== 'userSpaceOnUse';
    return false;
  }

  const hrefOf = (node: XmlElement) => (node.attrs.href ?? node.attrs['xlink:href'] ?? '').trim();

  /** Makes sure what a value refers to is among the definitions. */
  function define(id: string, view: Viewport) {
    const node = byId.get(id);
    if (!node || definedNodes.has(node) || !DEFINITIONS.has(node.tag) || node.foreign) return;
    if (defining >= LIMITS.references) return tell(`a definition that refers to others more than ${LIMITS.references} deep`);
    definedNodes.add(node);
    defining++;
    const made = clean(node, view, [], true);
    defining--;
    if (made) definitions.push(made);
  }

  function follow(attrs: Record<string, string>, view: Viewport) {
    for (const [name, value] of Object.entries(attrs)) {
      const id = LOCAL_URL.exec(value)?.[1];
      if (!id) continue;
      const node = byId.get(id);
      if (node && DEFINITIONS.has(node.tag)) define(id, view);
      else if (name !== 'fill' && name !== 'stroke') delete attrs[name];
      else attrs[name] = value.replace(LOCAL_URL, '').trim() || 'none';
    }
  }

  function childrenOf(node: XmlElement, view: Viewport, using: readonly XmlElement[]): (CleanElement | string)[] {
    const made: (CleanElement | string)[] = [];
    const inText = TEXT_CONTENT.has(node.tag);
    for (const child of node.children) {
      if (!isElement(child)) {
        if (inText) made.push(child);
        continue;
      }
      const result = clean(child, view, using, false);
      if (result) made.push(result);
    }
    return made;
  }

  function group(name: string, attrs: Record<string, string>, children: (CleanElement | string)[], id?: string): CleanElement {
    count();
    return { tag: 'g', name, id, attrs, children };
  }

  /** A nested viewport (`svg`, or a `symbol` through `use`): a group moved, scaled and clipped to it. */
  function viewportGroup(node: XmlElement, view: Viewport, using: readonly XmlElement[], at: { x: number; y: number; width?: string; height?: string }): CleanElement {
    const box = parseViewBox(node.attrs.viewBox);
    const width = parseLength(at.width ?? node.attrs.width, view.width) ?? view.width;
    const height = parseLength(at.height ?? node.attrs.height, view.height) ?? view.height;
    const attrs = attributes(node, view);
    for (const name of ['x', 'y', 'width', 'height', 'viewBox', 'preserveAspectRatio', 'transform']) delete attrs[name];
    const clipped = attrs.overflow !== 'visible' && attrs.overflow !== 'auto';
    delete attrs.overflow;
    follow(attrs, view);
    const inner = box ? { width: box.width, height: box.height } : { width, height };
    const matrix = multiply(translate(at.x, at.y), box ? viewBoxTransform(box, width, height, node.attrs.preserveAspectRatio) : IDENTITY);
    const transform = printTransform(matrix);
    if (transform) attrs.transform = transform;
    const content = group(nameOf(node), attrs, childrenOf(node, inner, using), node.attrs.id);
    if (!clipped || !(width > 0) || !(height > 0)) return content;
    const clipId = `tolvik-viewport-${definitions.length}-${elements}`;
    definitions.push({
      tag: 'clipPath',
      name: '',
      id: clipId,
      attrs: {},
      children: [{ tag: 'rect', name: '', attrs: { x: String(at.x), y: String(at.y), width: String(width), height: String(height) }, children: [] }],
    });
    return group(content.name, { 'clip-path': `url(#${clipId})` }, [content]);
  }

  function useCopy(node: XmlElement, view: Viewport, using: readonly XmlElement[]): CleanElement | null {
    const href = hrefOf(node);
    if (!href.startsWith('#')) {
      tell('a reference to something outside the file');
      return null;
    }
    const target = byId.get(href.slice(1));
    if (!target) return null;
    if (using.includes(target) || using.length > 30) refuse('svg.use', `${file} has a <use> that contains itself (${href})`, { where: file });
    const path = [...using, target];
    const x = parseLength(node.attrs.x, view.width) ?? 0;
    const y = parseLength(node.attrs.y, view.height) ?? 0;
    const attrs = attributes(node, view);
    for (const name of ['x', 'y', 'width', 'height']) delete attrs[name];
    follow(attrs, view);
    let inner: CleanElement | null;
    if ((target.tag === 'symbol' || target.tag === 'svg') && !target.foreign) {
      const size = {
        width: node.attrs.width ?? (target.tag === 'symbol' ? (target.attrs.width ?? '100%') : undefined),
        height: node.attrs.height ?? (target.tag === 'symbol' ? (target.attrs.height ?? '100%') : undefined),
      };
      inner = viewportGroup(target, view, path, { x, y, ...size });
    } else {
      inner = clean(target, view, path, false);
      if (inner && (x || y)) inner = group('', { transform: printTransform(translate(x, y)) }, [inner]);
    }
    if (!inner) return null;
    return group(nameOf(node) || nameOf(target), attrs, [inner]);
  }

  function picture(node: XmlElement, view: Viewport): CleanElement | null {
    const href = hrefOf(node);
    if (!PICTURE_DATA.test(href)) {
      tell(/^data:/i.test(href) ? 'a picture that is not PNG, JPEG, WebP or GIF' : 'a picture from outside the file');
      return null;
    }
    const attrs = attributes(node, view);
    follow(attrs, view);
    attrs.href = href.replace(/\s+/g, '');
    count();
    return { tag: 'image', name: nameOf(node), id: node.attrs.id, attrs, children: [] };
  }

  function clean(node: XmlElement, view: Viewport, using: readonly XmlElement[], asDefinition: boolean): CleanElement | null {
    if (node.foreign) return null;
    const { tag } = node;
    if (tag === 'use') return useCopy(node, view, using);
    if (tag === 'svg') return viewportGroup(node, view, using, { x: parseLength(node.attrs.x, view.width) ?? 0, y: parseLength(node.attrs.y, view.height) ?? 0 });
    if (tag === 'switch' || tag === 'a') {
      const kids = node.children.filter(isElement);
      const chosen =
        tag === 'a'
          ? null
          : (kids.find((kid) => !kid.foreign && kid.tag !== 'foreignObject' && !kid.attrs.requiredExtensions && !kid.attrs.systemLanguage) ??
            kids.find((kid) => !kid.foreign && kid.tag !== 'foreignObject'));
      if (tag === 'switch' && kids.some((kid) => kid.tag === 'foreignObject') && !chosen) tell(TOLD_WHEN_DROPPED.foreignObject);
      if (tag === 'a' && hrefOf(node)) tell(/^\s*javascript:/i.test(hrefOf(node)) ? 'a script' : 'a link (its artwork is kept)');
      const attrs = attributes(node, view);
      follow(attrs, view);
      const children = tag === 'a' ? childrenOf(node, view, using) : chosen ? [clean(chosen, view, using, false)].filter((child) => child !== null) : [];
      return children.length > 0 ? group(nameOf(node), attrs, children, node.attrs.id) : null;
    }
    if (tag === 'image') return picture(node, view);
    if (tag === 'textPath') tell(TOLD_WHEN_DROPPED.textPath);
    const isText = tag === 'tspan' || tag === 'textPath';
    if (!isText && !DRAWN.has(tag) && !(asDefinition && DEFINITIONS.has(tag)) && !INSIDE_DEFINITIONS.has(tag)) {
      if (TOLD_WHEN_DROPPED[tag]) tell(TOLD_WHEN_DROPPED[tag]);
      return null;
    }
    const attrs = attributes(node, view);
    follow(attrs, view);
    if (PAINT_LINKS.has(tag)) {
      const href = hrefOf(node);
      if (href.startsWith('#')) {
        define(href.slice(1), view);
        attrs.href = href;
      } else if (href) tell('a reference to something outside the file');
    }
    count();
    const id = using.length > 0 && !asDefinition ? undefined : node.attrs.id;
    return { tag: tag === 'textPath' ? 'tspan' : tag, name: nameOf(node), id, attrs, children: childrenOf(node, view, using) };
  }

  return { artwork: viewportRoot(), definitions };

  function viewportRoot(): CleanElement {
    const attrs = attributes(root, viewport);
    for (const name of ['x', 'y', 'width', 'height', 'viewBox', 'preserveAspectRatio', 'overflow', 'transform']) delete attrs[name];
    follow(attrs, viewport);
    return { tag: 'g', name: nameOf(root), attrs, children: childrenOf(root, viewport, []) };
  }
}

/** Definitions that may take what they lack from another one by `href`. */
const PAINT_LINKS = new Set(['linearGradient', 'radialGradient', 'pattern', 'filter']);
