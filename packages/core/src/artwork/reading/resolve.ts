import svgpath from 'svgpath';
import { refuse } from '../../basics/problem';
import {
  boundsOf,
  IDENTITY,
  isIdentity,
  multiply,
  parseTransform,
  printNumber,
  printTransform,
  translate,
} from '../../geometry/matrix';
import { pathWalk } from '../../geometry/path-walk';
import { shapePath } from '../../geometry/shape-path';
import { parseLength, parseViewBox, type ViewBox, viewBoxTransform } from '../../geometry/viewport';
import {
  ATTRIBUTES,
  DEFINITIONS,
  DRAWN,
  INHERITED,
  INSIDE_DEFINITIONS,
  LENGTHS_DIAGONAL,
  LENGTHS_X,
  LENGTHS_Y,
  NOT_NEGATIVE,
  PRESENTATION,
  SHAPES,
  TOLD_WHEN_DROPPED,
} from '../../profile/allow-list';
import { TEXT_PROPERTIES } from '../../profile/initial-values';
import { allowedValue, plainText } from '../../profile/values';
import { LIMITS } from '../markup/limits';
import { namesIn } from '../markup/names';
import type { Tell } from '../markup/told';
import { isElement, type XmlElement } from '../markup/xml';
import { basicShape } from '../style/css-shapes';
import { elementBox } from '../style/element-box';
import type { CleanElement } from './clean-element';
import { isForUs } from './conditional';
import { withoutLinks } from './linked-paint';
import { isSvgPicture, readSvgPicture, type SvgPicture, standingAlone, withOwnIds } from './svg-picture';

/** What is told of a value that was left out. */
const whyNot = (name: string, value: string): string =>
  /script:/i.test(value)
    ? 'a script'
    : /[(:]/.test(value)
      ? 'a reference to something outside the file'
      : `a ${name} that cannot be read ("${plainText(value, 40)}")`;

type Viewport = { width: number; height: number };
/** A viewport in its place, in px of what is around it; `fit` is its `preserveAspectRatio`. */
type Frame = { x: number; y: number; width: number; height: number; box: ViewBox | null; fit: string | undefined };

const TEXT_CONTENT = new Set(['text', 'tspan', 'textPath']);
/** A reference as `allowedValue` writes it. */
const LOCAL_URL = /url\(#([^)]+)\)/;

const PICTURE_DATA = /^data:image\/(png|jpe?g|webp|gif);base64,([A-Za-z0-9+/=\s]+)$/i;

/**
 * Takes a parsed file apart into clean elements: what is drawn, and definitions with the ids that
 * refer to them. Everything left out is told in a few words, once a kind.
 */
export function resolveTree(root: XmlElement, file: string, tellOf: Tell, viewport: Viewport, inside = 0) {
  const nameOf = namesIn(root);
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
  /** The element that is being read, for the name of the layer that something is told of. */
  let reading = root;
  const tell: Tell = (what) => {
    for (let at: XmlElement | undefined = reading; at && at !== root; at = parents.get(at)) {
      const name = nameOf(at);
      if (name) return tellOf(what, name);
    }
    tellOf(what);
  };
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
      refuse(
        'svg.use',
        `${file} grows beyond ${LIMITS.expandedElements.toLocaleString('en')} elements when its <use> copies are resolved`,
        {
          where: file,
          accepted: 'repeated parts that add up to fewer elements',
        },
      );
    }
  };

  function attributes(node: XmlElement, view: Viewport): Record<string, string> {
    const attrs: Record<string, string> = {};
    const put = (name: string, raw: string) => {
      const text = raw.trim();
      if (name === 'href' || name === 'xlink:href') return;
      if (/^on[a-z]/i.test(name)) return tell('an event attribute (script)');
      // Dashes have been brought to px by it already.
      if (!ATTRIBUTES.has(name) || (name === 'pathLength' && SHAPES.has(node.tag))) return;
      const value = allowedValue(name, text);
      if (value === null) return tell(whyNot(name, text));
      if (PRESENTATION.has(name) && (value === '' || value === 'inherit')) return;
      const isX = LENGTHS_X.has(name);
      const isY = LENGTHS_Y.has(name);
      if (isX || isY || LENGTHS_DIAGONAL.has(name)) {
        const inBox = boundingBoxUnits(node);
        const full = inBox
          ? 1
          : isX
            ? view.width
            : isY
              ? view.height
              : Math.hypot(view.width, view.height) / Math.SQRT2;
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
      if (
        (name === 'transform' || name === 'd' || name === 'points' || name === 'opacity') &&
        /NaN|Infinity/i.test(value)
      )
        return tell(`a ${name} with NaN or Infinity`);
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
    if (defining >= LIMITS.references)
      return tell(`a definition that refers to others more than ${LIMITS.references} deep`);
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
    if (node.tag === 'mask' && /^linearrgb$/i.test(made.attrs['color-interpolation'] ?? ''))
      tell('a mask that measures linear light, drawn as one of sRGB');
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
      const moved = translate(
        parseLength(child.attrs.x, view.width) ?? 0,
        parseLength(child.attrs.y, view.height) ?? 0,
      );
      const matrix = multiply(
        multiply(parseTransform(attrs.transform ?? '') ?? IDENTITY, moved),
        parseTransform(part.attrs.transform ?? '') ?? IDENTITY,
      );
      for (const name of INHERITED) if (name in attrs && !(name in part.attrs)) part.attrs[name] = attrs[name];
      if (attrs['clip-path'] && attrs['clip-path'] !== 'none') {
        if (
          part.attrs['clip-path'] ||
          !isIdentity(multiply(moved, parseTransform(part.attrs.transform ?? '') ?? IDENTITY))
        )
          tell('a clip on a copy inside a clip path');
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
    const path: CleanElement = {
      tag: 'path',
      name: '',
      attrs: { d: shape.d, 'clip-rule': shape.rule, ...(at ? { transform: at } : {}) },
      children: [],
    };
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
      const result = clean(
        inText && child.tag === 'a' && !child.foreign ? { ...child, tag: 'tspan' } : child,
        view,
        using,
        false,
      );
      if (result && !(result.tag === 'tspan' && result.attrs.display === 'none')) made.push(result);
    }
    return made;
  }

  /** Letters on a path say what it is themselves; false when there is none, and nothing is drawn (SVG 2 §11.8). */
  function standsOnPath(node: XmlElement, attrs: Record<string, string>): boolean {
    const target = byId.get(hrefOf(node).slice(1));
    const said = attrs.path
      ? attrs.path
      : target && !target.foreign && SHAPES.has(target.tag)
        ? shapePath(target.tag, attributes(target, viewport))
        : '';
    const turn = attrs.path ? undefined : parseTransform(target?.attrs.transform ?? '');
    delete attrs.path;
    const path = said && turn && !isIdentity(turn) ? svgpath(said).matrix(turn).round(6).toString() : said;
    const walk = pathWalk(path);
    if (!(walk.length > 0)) return false;
    const offset = node.attrs.startOffset;
    const stretched =
      Number(target?.attrs.pathLength) > 0 && !/%/.test(offset ?? '')
        ? walk.length / Number(target?.attrs.pathLength)
        : 1;
    attrs.path = path;
    attrs.startOffset = printNumber((parseLength(offset, walk.length) ?? 0) * stretched, 6);
    return true;
  }

  function group(
    name: string,
    attrs: Record<string, string>,
    children: (CleanElement | string)[],
    id?: string,
  ): CleanElement {
    count();
    return { tag: 'g', name, id, attrs, children };
  }

  /** A nested viewport (`svg`, or a `symbol` through `use`): a group moved, scaled and clipped to it. */
  function viewportGroup(
    node: XmlElement,
    view: Viewport,
    using: readonly XmlElement[],
    at: { x: number; y: number; width?: string; height?: string },
  ): CleanElement {
    const box = parseViewBox(node.attrs.viewBox);
    const width = parseLength(at.width ?? node.attrs.width, view.width) ?? view.width;
    const height = parseLength(at.height ?? node.attrs.height, view.height) ?? view.height;
    const inner = box ? { width: box.width, height: box.height } : { width, height };
    return framed(node, view, { x: at.x, y: at.y, width, height, box, fit: node.attrs.preserveAspectRatio }, () =>
      childrenOf(node, inner, using),
    );
  }

  /** What a viewport shows, as a group that is moved and scaled into its place and cut at its edge. */
  function framed(
    node: XmlElement,
    view: Viewport,
    { x, y, width, height, box, fit }: Frame,
    content: () => (CleanElement | string)[],
  ): CleanElement {
    const attrs = attributes(node, view);
    for (const name of ['x', 'y', 'width', 'height', 'viewBox', 'preserveAspectRatio', 'transform', 'refX', 'refY'])
      delete attrs[name];
    const clipped = attrs.overflow !== 'visible' && attrs.overflow !== 'auto';
    delete attrs.overflow;
    follow(attrs, view);
    clippedByShape(node, attrs);
    const matrix = multiply(translate(x, y), box ? viewBoxTransform(box, width, height, fit) : IDENTITY);
    const transform = printTransform(matrix);
    const own = node.tag === 'symbol' ? undefined : parseTransform(node.attrs.transform ?? '');
    const turned = own && !isIdentity(own) ? printTransform(own) : '';
    if (transform) attrs.transform = transform;
    const shown = group(nameOf(node), attrs, content(), node.attrs.id);
    if (!(width > 0) || !(height > 0)) return group(shown.name, { display: 'none' }, []);
    if (!clipped) return turned ? group(shown.name, { transform: turned }, [shown]) : shown;
    const clipId = `tolvik-viewport-${definitions.length}-${elements}`;
    definitions.push({
      tag: 'clipPath',
      name: '',
      id: clipId,
      attrs: {},
      children: [
        {
          tag: 'rect',
          name: '',
          attrs: { x: String(x), y: String(y), width: String(width), height: String(height) },
          children: [],
        },
      ],
    });
    return group(shown.name, { 'clip-path': `url(#${clipId})`, ...(turned ? { transform: turned } : {}) }, [shown]);
  }

  function useCopy(node: XmlElement, view: Viewport, using: readonly XmlElement[]): CleanElement | null {
    const href = hrefOf(node);
    if (!href.startsWith('#')) {
      tell('a reference to something outside the file');
      return null;
    }
    const target = byId.get(href.slice(1));
    if (!target) return null;
    if (using.includes(target) || using.length > 30)
      refuse('svg.use', `${file} has a <use> that contains itself (${href})`, { where: file });
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
    if (isSvgPicture(href) && inside < LIMITS.picturesInside) return drawnPicture(node, href, view);
    if (!PICTURE_DATA.test(href)) {
      tell(
        /^data:/i.test(href) ? 'a picture that is not PNG, JPEG, WebP, GIF or SVG' : 'a picture from outside the file',
      );
      return null;
    }
    const attrs = attributes(node, view);
    follow(attrs, view);
    clippedByShape(node, attrs);
    attrs.href = href.replace(/\s+/g, '');
    count();
    return { tag: 'image', name: nameOf(node), id: node.attrs.id, attrs, children: [] };
  }

  /** Pictures of SVG that were read, by the element that shows them. */
  const drawn = new Map<XmlElement, { picture: SvgPicture; artwork: CleanElement; elements: number } | null>();

  /** Properties that come down from anywhere in the file. */
  const saidAnywhere = () =>
    new Set([...parents.keys(), root].flatMap((node) => Object.keys(node.attrs).filter((name) => INHERITED.has(name))));

  function readDrawn(href: string) {
    const picture = readSvgPicture(href, file, tell);
    if (!picture) return null;
    const read = resolveTree(picture.root, file, tell, picture.box, inside + 1);
    const prefix = `picture-${inside}-${drawn.size}-`;
    definitions.push(...read.definitions.map((definition) => withOwnIds(definition, prefix)));
    const said = saidAnywhere();
    return {
      picture,
      artwork: standingAlone(withOwnIds(read.artwork, prefix), (name) => said.has(name)),
      elements: read.elements,
    };
  }

  /** A picture that is SVG becomes artwork in a group of its own. */
  function drawnPicture(node: XmlElement, href: string, view: Viewport): CleanElement | null {
    if (!drawn.has(node)) drawn.set(node, readDrawn(href));
    const known = drawn.get(node);
    if (!known) return null;
    const { root: inner, box, width: ownWidth, height: ownHeight, sized } = known.picture;
    for (let i = 0; i < known.elements; i++) count();
    const side = (said: string | undefined, full: number) =>
      said === undefined || said === 'auto' ? undefined : parseLength(said, full);
    const [w, h] = [side(node.attrs.width, view.width), side(node.attrs.height, view.height)];
    const width = w ?? (h === undefined ? ownWidth : (h * ownWidth) / ownHeight);
    const height = h ?? (w === undefined ? ownHeight : (w * ownHeight) / ownWidth);
    const [x, y] = [parseLength(node.attrs.x, view.width) ?? 0, parseLength(node.attrs.y, view.height) ?? 0];
    const fit = node.attrs.preserveAspectRatio;
    const own = inner.attrs.preserveAspectRatio;
    const hasBox = 'viewBox' in inner.attrs;
    // Browsers give it the size of its place, into which it fits its viewBox itself; only stretched is it drawn at its own, and one without a viewBox always is.
    if (!sized || (hasBox && fit?.trim() !== 'none'))
      return framed(node, view, { x, y, width, height, box, fit: fit?.trim() === 'none' ? fit : own }, () => [
        known.artwork,
      ]);
    const transform = printTransform(viewBoxTransform(box, ownWidth, ownHeight, own));
    return framed(
      node,
      view,
      { x, y, width, height, box: { x: 0, y: 0, width: ownWidth, height: ownHeight }, fit: 'none' },
      () => [transform ? group('', { transform }, [known.artwork]) : known.artwork],
    );
  }

  function clean(
    node: XmlElement,
    view: Viewport,
    using: readonly XmlElement[],
    asDefinition: boolean,
  ): CleanElement | null {
    const outer = reading;
    reading = node;
    const made = cleaned(node, view, using, asDefinition);
    reading = outer;
    return made;
  }

  function cleaned(
    node: XmlElement,
    view: Viewport,
    using: readonly XmlElement[],
    asDefinition: boolean,
  ): CleanElement | null {
    if (node.foreign || !isForUs(node)) return null;
    const { tag } = node;
    if (tag === 'use') return useCopy(node, view, using);
    if (tag === 'svg')
      return viewportGroup(node, view, using, {
        x: parseLength(node.attrs.x, view.width) ?? 0,
        y: parseLength(node.attrs.y, view.height) ?? 0,
      });
    if (tag === 'switch' || tag === 'a') {
      const kids = node.children.filter(isElement);
      const chosen =
        tag === 'a' ? undefined : kids.find((kid) => !kid.foreign && kid.tag !== 'foreignObject' && isForUs(kid));
      if (tag === 'switch' && kids.some((kid) => kid.tag === 'foreignObject') && !chosen)
        tell(TOLD_WHEN_DROPPED.foreignObject);
      if (tag === 'a' && hrefOf(node))
        tell(/^\s*javascript:/i.test(hrefOf(node)) ? 'a script' : 'a link (its artwork is kept)');
      const attrs = attributes(node, view);
      follow(attrs, view);
      clippedByShape(node, attrs);
      const children =
        tag === 'a'
          ? childrenOf(node, view, using)
          : chosen
            ? [clean(chosen, view, using, false)].filter((child) => child !== null)
            : [];
      return children.length > 0 ? group(nameOf(node), attrs, children, node.attrs.id) : null;
    }
    if (tag === 'image') return picture(node, view);
    const isText = tag === 'tspan' || tag === 'textPath';
    if (!isText && !DRAWN.has(tag) && !(asDefinition && DEFINITIONS.has(tag)) && !INSIDE_DEFINITIONS.has(tag)) {
      if (TOLD_WHEN_DROPPED[tag]) tell(TOLD_WHEN_DROPPED[tag]);
      return null;
    }
    const attrs = attributes(node, view);
    follow(attrs, view);
    clippedByShape(node, attrs);
    if (tag !== 'textPath') for (const name of ON_PATH) delete attrs[name];
    else if (!standsOnPath(node, attrs)) return null;
    count();
    const id = using.length > 0 && !asDefinition ? undefined : node.attrs.id;
    const children = childrenOf(node, view, using);
    if (tag === 'g' && attrs.filter && children.length === 0) tell('a filter on a group that holds nothing');
    return { tag: tag === 'textPath' ? 'tspan' : tag, name: nameOf(node), id, attrs, children };
  }

  return { artwork: viewportRoot(), definitions, elements };

  function viewportRoot(): CleanElement {
    const attrs = attributes(root, viewport);
    for (const name of ['x', 'y', 'width', 'height', 'viewBox', 'preserveAspectRatio', 'overflow', 'transform'])
      delete attrs[name];
    follow(attrs, viewport);
    return { tag: 'g', name: nameOf(root), attrs, children: childrenOf(root, viewport, []) };
  }
}

/** What only text on a path says. */
const ON_PATH = ['path', 'startOffset', 'side'];

const POINT_CLOSED = /([Mm]\s*[-+]?[\d.]+(?:e[-+]?\d+)?(?:\s*,\s*|\s+|(?=[-+]))[-+]?[\d.]+(?:e[-+]?\d+)?)\s*[Zz]/g;

/** Of what surrounds a clip path, what decides what it lets through. */
const CLIP_INHERITS = ['clip-rule', 'visibility', ...TEXT_PROPERTIES];
