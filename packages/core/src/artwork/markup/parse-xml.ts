import { SaxesParser } from 'saxes';
import { refuse } from '../../basics/problem';
import { LIMITS } from './limits';
import { SVG_NS, TOLVIK_NS, XLINK_NS, type XmlElement } from './xml';

/**
 * Entities declared inside the DOCTYPE with a plain value, expanded; all of them together may grow to
 * `LIMITS.entityCharacters`. External and parameter entities are never read (XML 1.0 §4.2.2).
 */
function declaredEntities(doctype: string, file: string): Record<string, string> {
  const found: Record<string, string> = Object.create(null);
  let count = 0;
  for (const [, name, , double, single] of doctype.matchAll(
    /<!ENTITY\s+([A-Za-z_][\w.-]*)\s+("([^"]*)"|'([^']*)')\s*>/g,
  )) {
    if (++count > LIMITS.entities)
      refuse('svg.entities', `${file} declares more than ${LIMITS.entities} entities`, { where: file });
    if (!(name in found)) found[name] = double ?? single ?? '';
  }
  let grown = 0;
  const done = new Map<string, string>();
  const expand = (name: string, path: readonly string[]): string => {
    const known = done.get(name);
    if (known !== undefined) return known;
    if (path.includes(name))
      refuse('svg.entities', `${file} declares an entity that contains itself: ${name}`, { where: file });
    const value = found[name].replace(/&([A-Za-z_][\w.-]*);/g, (whole, inner) =>
      inner in found ? expand(inner, [...path, name]) : whole,
    );
    grown += value.length;
    if (grown > LIMITS.entityCharacters) {
      refuse('svg.entities', `${file} declares entities that grow beyond ${LIMITS.entityCharacters} characters`, {
        where: file,
        accepted: 'entities that stand for namespaces or short text',
      });
    }
    done.set(name, value);
    return value;
  };
  for (const name of Object.keys(found)) found[name] = expand(name, []);
  return found;
}

const MARK = /[<&]/g;
const DOCTYPE = /<!DOCTYPE[^[>]*\[([^\]]*(?:\](?!\s*>)[^\]]*)*)\]\s*>/i;
/** What an entity in the content of an element is not looked for in. */
const APART: readonly [start: string, end: string][] = [
  ['<!--', '-->'],
  ['<![CDATA[', ']]>'],
  ['<?', '?>'],
];

/**
 * Text with the entities that hold elements put in their place, as the parser takes all others for text (XML 1.0
 * §4.4.2). All of them together may grow to `LIMITS.entityCharacters`.
 */
function withElements(text: string, file: string): string {
  const doctype = text.includes('<!ENTITY') ? DOCTYPE.exec(text) : null;
  if (!doctype) return text;
  const entities = Object.entries(declaredEntities(doctype[1], file)).filter(([, value]) => value.includes('<'));
  if (entities.length === 0) return text;
  const values = new Map(entities);
  let grown = 0;
  let at = doctype.index + doctype[0].length;
  let made = text.slice(0, at);
  while (at < text.length) {
    MARK.lastIndex = at;
    const next = MARK.exec(text)?.index;
    if (next === undefined) break;
    made += text.slice(at, next);
    at = next;
    const apart = APART.find(([start]) => text.startsWith(start, at));
    const name = text[at] === '&' ? /^&([A-Za-z_][\w.-]*);/.exec(text.slice(at, at + 200))?.[1] : undefined;
    const value = name === undefined ? undefined : values.get(name);
    if (value !== undefined) {
      grown += value.length;
      if (grown > LIMITS.entityCharacters)
        refuse('svg.entities', `${file} uses entities beyond ${LIMITS.entityCharacters} characters`, { where: file });
      made += value;
      at += (name as string).length + 2;
      continue;
    }
    const end = apart ? text.indexOf(apart[1], at) : text[at] === '<' ? endOfTag(text, at) : at;
    const to = end < 0 ? text.length : end + (apart ? apart[1].length : 1);
    made += text.slice(at, to);
    at = to;
  }
  return made + text.slice(at);
}

/** Where a tag ends, whatever its attributes hold. */
function endOfTag(text: string, from: number): number {
  let quote = '';
  for (let at = from; at < text.length; at++) {
    if (quote) {
      if (text[at] === quote) quote = '';
    } else if (text[at] === '"' || text[at] === "'") quote = text[at];
    else if (text[at] === '>') return at;
  }
  return -1;
}

/**
 * Parses XML 1.0 into a tree of elements and text, within `LIMITS`.
 * Throws a `Refusal` with line and column where the text is not well-formed.
 */
export function parseXml(text: string, file: string): XmlElement {
  const parser = new SaxesParser({ xmlns: false, position: true, fileName: file });
  const scopes: Record<string, string>[] = [
    { '': SVG_NS, svg: SVG_NS, xlink: XLINK_NS, xml: 'http://www.w3.org/XML/1998/namespace' },
  ];
  const stack: XmlElement[] = [];
  let root: XmlElement | undefined;
  let elements = 0;
  let entityUse = 0;
  const position = () => ({ where: file, line: parser.line, column: parser.column });

  parser.on('error', (error) => {
    const message = error.message.replace(/^.*?:?\d+:\d+:\s*/, '').replace(/\.$/, '');
    refuse(
      'svg.xml',
      `${file} is not well-formed at line ${parser.line}, column ${parser.column}: ${message}`,
      position(),
    );
  });
  parser.on('doctype', (doctype) => {
    const entities = declaredEntities(doctype, file);
    for (const [name, value] of Object.entries(entities)) {
      Object.defineProperty(parser.ENTITIES, name, {
        enumerable: true,
        get: () => {
          entityUse += value.length;
          if (entityUse > LIMITS.entityCharacters)
            refuse('svg.entities', `${file} uses entities beyond ${LIMITS.entityCharacters} characters`, position());
          return value;
        },
      });
    }
  });
  parser.on('opentag', (tag) => {
    if (++elements > LIMITS.elements) {
      refuse('svg.elements', `${file} has more than ${LIMITS.elements.toLocaleString('en')} elements`, {
        ...position(),
        accepted: `up to ${LIMITS.elements.toLocaleString('en')} elements a file`,
      });
    }
    if (stack.length >= LIMITS.depth) {
      refuse('svg.depth', `${file} nests elements more than ${LIMITS.depth} deep (line ${parser.line})`, {
        ...position(),
        accepted: `groups up to ${LIMITS.depth} deep`,
      });
    }
    const attributes = Object.entries(tag.attributes as Record<string, string>);
    if (attributes.length > LIMITS.attributesPerElement)
      refuse(
        'svg.attributes',
        `${file} has an element with ${attributes.length} attributes (line ${parser.line})`,
        position(),
      );
    let scope = scopes.at(-1) as Record<string, string>;
    if (attributes.some(([name]) => name === 'xmlns' || name.startsWith('xmlns:'))) {
      scope = { ...scope };
      for (const [name, value] of attributes) {
        if (name === 'xmlns') scope[''] = value;
        else if (name.startsWith('xmlns:')) scope[name.slice(6)] = value;
      }
    }
    scopes.push(scope);
    const colon = tag.name.indexOf(':');
    const prefix = colon < 0 ? '' : tag.name.slice(0, colon);
    const attrs: Record<string, string> = Object.create(null);
    for (const [name, value] of attributes) {
      if (name === 'xmlns' || name.startsWith('xmlns:')) continue;
      const limit = /^\s*data:image\//i.test(value.slice(0, 40)) ? LIMITS.pictureLength : LIMITS.attributeLength;
      if (value.length > limit)
        refuse(
          'svg.attributes',
          `${file} has an attribute of ${value.length} characters (line ${parser.line})`,
          position(),
        );
      const at = name.indexOf(':');
      const ns = at < 0 ? null : scope[name.slice(0, at)];
      if (ns === XLINK_NS) attrs[`xlink:${name.slice(at + 1)}`] = value;
      else if (ns === TOLVIK_NS) attrs[`tolvik:${name.slice(at + 1)}`] = value;
      else attrs[name] = value;
    }
    const element: XmlElement = {
      tag: tag.name.slice(colon + 1),
      attrs,
      children: [],
      foreign: scope[prefix] !== SVG_NS,
    };
    if (stack.length > 0) (stack.at(-1) as XmlElement).children.push(element);
    else root = element;
    stack.push(element);
  });
  parser.on('closetag', () => {
    stack.pop();
    scopes.pop();
  });
  const addText = (value: string) => {
    const parent = stack.at(-1);
    if (!parent) return;
    if (typeof parent.children.at(-1) === 'string') parent.children[parent.children.length - 1] += value;
    else parent.children.push(value);
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.write(withElements(text, file)).close();
  if (!root)
    return refuse('svg.empty', `${file} holds no SVG`, { where: file, accepted: 'an SVG file with an <svg> element' });
  return root;
}
