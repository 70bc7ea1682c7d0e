import { createHash } from 'node:crypto';
import { type CustomPlugin, optimize, type PluginInfo, type XastElement, type XastRoot } from 'svgo/browser';

/** Elements that are drawn only where something refers to them (SVG 2 §5.3). */
const DEFINITIONS = new Set([
  'linearGradient',
  'radialGradient',
  'clipPath',
  'mask',
  'pattern',
  'filter',
  'marker',
  'symbol',
]);
const REFERENCE = /url\(\s*(["']?)#([^"')]*)\1\s*\)/g;
const LETTERS = 'abcdefghijklmnopqrstuvwxyz';
/** One of 43 million: of 300 files on one page, no two have the same in 999 of 1,000 cases. */
const MARK_LENGTH = 5;

/** A name that hardly any other file has: a letter, then letters and digits, by what the file draws. */
function markOf(text: string): string {
  const hash = createHash('sha256').update(text).digest();
  let mark = LETTERS[hash[0] % LETTERS.length];
  for (let i = 1; i < MARK_LENGTH; i++) mark += (hash.readUInt32BE(i * 4) % 36).toString(36);
  return mark;
}

/** Gives every id, or of a file that keeps its names only those of definitions, a mark before it, wherever it is said. */
function marked(mark: string, keepsNames: boolean): CustomPlugin<PluginInfo> {
  return {
    name: 'ownIds',
    fn: (root) => {
      const names = new Map<string, string>();
      const visit = (
        node: XastElement | XastRoot,
        inDefs: boolean,
        see: (node: XastElement, inDefs: boolean) => void,
      ) => {
        for (const child of node.children) {
          if (child.type !== 'element') continue;
          see(child, inDefs);
          visit(child, inDefs || child.name === 'defs' || DEFINITIONS.has(child.name), see);
        }
      };
      visit(root as XastRoot, false, ({ name, attributes: { id } }, inDefs) => {
        if (id && (!keepsNames || inDefs || DEFINITIONS.has(name))) names.set(id, `${mark}${id}`);
      });
      visit(root as XastRoot, false, ({ attributes }) => {
        for (const [attribute, value] of Object.entries(attributes)) {
          if (attribute === 'id') attributes.id = names.get(value) ?? value;
          else if (attribute === 'href' || attribute === 'xlink:href') {
            const own = value.startsWith('#') ? names.get(value.slice(1)) : undefined;
            if (own) attributes[attribute] = `#${own}`;
          } else if (value.includes('url('))
            attributes[attribute] = value.replace(REFERENCE, (whole, _, id: string) =>
              names.has(id) ? `url(#${names.get(id)})` : whole,
            );
        }
      });
      return null;
    },
  };
}

/**
 * An SVG file whose ids no other file has, so that several can stand in one page of HTML: ids of a page are one set, and
 * a second gradient `a` would be drawn with the colours of the first. The same drawing has the same ids each time.
 */
export function withOwnIds(
  text: string,
  keepsNames: boolean,
  js2svg: NonNullable<Parameters<typeof optimize>[1]>['js2svg'],
): string {
  if (!/ id="/.test(text)) return text;
  return optimize(text, { multipass: false, js2svg, plugins: [marked(markOf(text), keepsNames)] }).data;
}
