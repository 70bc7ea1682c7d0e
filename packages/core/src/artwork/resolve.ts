import { refuse } from '../problem';
import { ATTRIBUTES, DEFINITIONS, DRAWN, INHERITED, INSIDE_DEFINITIONS, LENGTHS_DIAGONAL, LENGTHS_X, LENGTHS_Y, NOT_NEGATIVE, PRESENTATION, SHAPES, TOLD_WHEN_DROPPED } from './allow-list';
import { isForUs } from './conditional';
import { basicShape } from './css-shapes';
import { elementBox } from './element-box';
import { LIMITS } from './limits';
import { withoutLinks } from './linked-paint';
import { boundsOf, IDENTITY, isIdentity, multiply, parseTransform, printNumber, printTransform, translate } from './matrix';
import { nameOf } from './names';
import { allowedValue, plainText } from './values';
import { parseLength, parseViewBox, type ViewBox, viewBoxTransform } from './viewport';
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
  const parents = new Map<XmlElement, XmlElement>();
  const index = (node: XmlElement) => {
    if (node.attrs.id && !byId.has(node.attrs.id)) byId.set(node.attrs.id, node);
    for (const child of node.children) {
      if (!isElement(child)) continue;
      parents.set(child, node);
      index(child);
    }
  };
  index(root);
  const rootBox: ViewBox = parseViewBox(root.attrs.viewBox) ?? { x: 0, y: 0, ...viewport };

  /** A property as it comes down to a node from those around it in the file. */
  const comesDown = (node: XmlElement, name: string): string | undefined => {
    for (let at: XmlElement | undefined = node; at; at = parents.get(at)) if (name in at.attrs) return at.attrs[name];
    return undefined;
  };

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
        attrs[name] = printNumber(length, 10);
        return;
      }
      if ((name === 'transform' || name === 'd' || name === 'points' || name === 'opacity') && /NaN|Infinity/i.test(value)) return tell(`a ${name} with NaN or Infinity`);
      // A point that is closed at once draws its caps; some renderers want a line for that (SVG 2 §9.6.4).
      attrs[name] = name === 'd' ? value.replace(POINT_CLOSED, '$1h0z') : value;
    };
    for (const [name, value] of Object.entries(node.attrs)) put(name, value);
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
    const made = definition(node, view);
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

  /** A definition that needs nothing of the place where it stands: what it inherits and what it takes by `href` is its own. */
  function definition(node: XmlElement, view: Viewport): CleanElement | null {
    const whole = withoutLinks(node, (id) => byId.get(id), comesDown, tell);
    const kept = { ...whole, attrs: { ...whole.attrs } };
    if (!/Gradient$/.test(node.tag)) {
      for (const name of node.tag === 'clipPath' ? CLIP_INHERITS : INHERITED) {
        const value = name in kept.attrs ? undefined : comesDown(node, name);
        if (value !== undefined) kept.attrs[name] = value;
      }
    }
    const made = clean(kept, view, [], true);
    if (!made) return null;
    if (node.tag === 'clipPath') made.children = clipParts(kept, view);
    // Browsers do not heed a mask on a mask; other renderers would.
    if (node.tag === 'mask') delete made.attrs.mask;
    if (node.tag === 'mask' && /^linearrgb$/i.test(made.attrs['color-interpolation'] ?? '')) tell('a mask that measures linear light, drawn as one of sRGB');
    return made;
  }

  /** What a clip path may hold: shapes, text, and copies of either (CSS Masking 1 §5.2); the rest draws nothing there. */
  function clipParts(node: XmlElement, view: Viewport): CleanElement[] {
    return node.children.filter(isElement).flatMap((child): CleanElement[] => {
      const isPart = (at: XmlElement) => !at.foreign && (SHAPES.has(at.tag) || at.tag === 'text') && isForUs(at);
      if (isPart(child)) return [clean(child, view, [], false)].filter((part) => part !== null);
      const target = child.tag === 'use' && !child.foreign ? byId.get(hrefOf(child).slice(1)) : undefined;
      if (!target || !isPart(target)) return [];
      const part = clean(target, view, [target], false);
      const attrs = attributes(child, view);
      if (!part || attrs.display === 'none') return [];
      follow(attrs, view);
      const moved = translate(parseLength(child.attrs.x, view.width) ?? 0, parseLength(child.attrs.y, view.height) ?? 0);
      const matrix = multiply(multiply(parseTransform(attrs.transform ?? '') ?? IDENTITY, moved), parseTransform(part.attrs.transform ?? '') ?? IDENTITY);
      for (const name of INHERITED) if (name in attrs && !(name in part.attrs)) part.attrs[name] = attrs[name];
      if (attrs['clip-path'] && attrs['clip-path'] !== 'none') {
        if (part.attrs['clip-path'] || !isIdentity(multiply(moved, parseTransform(part.attrs.transform ?? '') ?? IDENTITY))) tell('a clip on a copy inside a clip path');
        else part.attrs['clip-path'] = attrs['clip-path'];
      }
      if (isIdentity(matrix)) delete part.attrs.transform;
      else part.attrs.transform = printTransform(matrix);
      return [part];
    });
  }

  /** A shape of CSS in `clip-path` as a clip path of its own. */
  function clippedByShape(node: XmlElement, attrs: Record<string, string>): void {
    const said = attrs['clip-path'];
    if (said === undefined || said === 'none' || LOCAL_URL.test(said)) return;
    delete attrs['clip-path'];
    const shape = basicShape(said, elementBox(node), boundsOf(rootBox));
    if (!shape) return tell(`a clip that cannot be read ("${said.slice(0, 40)}")`);
    const id = `tolvik-shape-${definitions.length}-${elements}`;
    const at = printTransform(translate(shape.at[0], shape.at[1]));
    const path: CleanElement = { tag: 'path', name: '', attrs: { d: shape.d, 'clip-rule': shape.rule, ...(at ? { transform: at } : {}) }, children: [] };
    definitions.push({ tag: 'clipPath', name: '', id, attrs: {}, children: [path] });
    attrs['clip-path'] = `url(#${id})`;
  }

  function childrenOf(node: XmlElement, view: Viewport, using: readonly XmlElement[]): (CleanElement | string)[] {
    const made: (CleanElement | string)[] = [];
    const inText = TEXT_CONTENT.has(node.tag);
    for (const child of node.children) {
      if (!isElement(child)) {
        if (inText) made.push(child);
        continue;
      }
      // A link among letters is letters.
      const result = clean(inText && child.tag === 'a' && !child.foreign ? { ...child, tag: 'tspan' } : child, view, using, false);
      if (result && !(result.tag === 'tspan' && result.attrs.display === 'none')) made.push(result);
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
    for (const name of ['x', 'y', 'width', 'height', 'viewBox', 'preserveAspectRatio', 'transform', 'refX', 'refY']) delete attrs[name];
    const clipped = attrs.overflow !== 'visible' && attrs.overflow !== 'auto';
    delete attrs.overflow;
    follow(attrs, view);
    clippedByShape(node, attrs);
    const inner = box ? { width: box.width, height: box.height } : { width, height };
    const matrix = multiply(translate(at.x, at.y), box ? viewBoxTransform(box, width, height, node.attrs.preserveAspectRatio) : IDENTITY);
    const transform = printTransform(matrix);
    const own = node.tag === 'svg' ? parseTransform(node.attrs.transform ?? '') : undefined;
    const turned = own && !isIdentity(own) ? printTransform(own) : '';
    if (transform) attrs.transform = transform;
    const content = group(nameOf(node), attrs, childrenOf(node, inner, using), node.attrs.id);
    if (!(width > 0) || !(height > 0)) return group(content.name, { display: 'none' }, []);
    if (!clipped) return turned ? group(content.name, { transform: turned }, [content]) : content;
    const clipId = `tolvik-viewport-${definitions.length}-${elements}`;
    definitions.push({
      tag: 'clipPath',
      name: '',
      id: clipId,
      attrs: {},
      children: [{ tag: 'rect', name: '', attrs: { x: String(at.x), y: String(at.y), width: String(width), height: String(height) }, children: [] }],
    });
    return group(content.name, { 'clip-path': `url(#${clipId})`, ...(turned ? { transform: turned } : {}) }, [content]);
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
    clippedByShape(node, attrs);
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
    clippedByShape(node, attrs);
    attrs.href = href.replace(/\s+/g, '');
    count();
    return { tag: 'image', name: nameOf(node), id: node.attrs.id, attrs, children: [] };
  }

  function clean(node: XmlElement, view: Viewport, using: readonly XmlElement[], asDefinition: boolean): CleanElement | null {
    if (node.foreign || !isForUs(node)) return null;
    const { tag } = node;
    if (tag === 'use') return useCopy(node, view, using);
    if (tag === 'svg') return viewportGroup(node, view, using, { x: parseLength(node.attrs.x, view.width) ?? 0, y: parseLength(node.attrs.y, view.height) ?? 0 });
    if (tag === 'switch' || tag === 'a') {
      const kids = node.children.filter(isElement);
      const chosen = tag === 'a' ? undefined : kids.find((kid) => !kid.foreign && kid.tag !== 'foreignObject' && isForUs(kid));
      if (tag === 'switch' && kids.some((kid) => kid.tag === 'foreignObject') && !chosen) tell(TOLD_WHEN_DROPPED.foreignObject);
      if (tag === 'a' && hrefOf(node)) tell(/^\s*javascript:/i.test(hrefOf(node)) ? 'a script' : 'a link (its artwork is kept)');
      const attrs = attributes(node, view);
      follow(attrs, view);
      clippedByShape(node, attrs);
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
    clippedByShape(node, attrs);
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

const POINT_CLOSED = /([Mm]\s*[-+]?[\d.]+(?:e[-+]?\d+)?(?:\s*,\s*|\s+|(?=[-+]))[-+]?[\d.]+(?:e[-+]?\d+)?)\s*[Zz]/g;

/** Of what surrounds a clip path, what decides what it lets through. */
const CLIP_INHERITS = ['clip-rule', 'visibility', 'font-family', 'font-size', 'font-weight', 'font-style', 'letter-spacing', 'word-spacing', 'text-anchor'];
