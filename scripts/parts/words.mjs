/** Every sentence that somebody may read, taken from the sources themselves. */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { parseAst } from 'vite';

/** Where the words of each list are; what stands in none is shown everywhere. */
const LISTS = [
  ['shelf', /^packages\/web\/src\/shelf\//],
  ['bench', /^packages\/web\/src\/bench\//],
  ['proof', /^packages\/web\/src\/(proof|outputs)\//],
  ['deliveries', /^packages\/web\/src\/deliveries\//],
  ['everywhere', /^packages\/web\/src\//],
  ['checks-and-acts', /^packages\/core\/src\/(checks|acts)\//],
  ['refusals', /^packages\/(core|intake|folders)\/src\//],
];

const named = (names) => new Set(names.split(' '));
/** Attributes and fields that somebody reads or hears, also where they are one word. */
const READ = named(
  'aria-label title label showLabel placeholder about alt note heading words unless nothing message accepted empty',
);
/** Attributes and fields that hold no language. */
const NEVER = named('className d viewBox style key id type name role href src kind transform');
/** Where strings are names for the program alone. */
const SKIPPED = /^(Import(?!Expression)|ExportAll|TS(?!As|NonNull|Satisfies))/;

/** Classes of Tailwind, which look like words. */
const CLASSES =
  /(^|\s)(?:[a-z-]+:)?(?:[pm][xytblr]?|text|bg|border|flex|grid|gap|rounded|size|w|h|min|max|absolute|inset)-[\w[]|\b(?:hover|focus|data-\[)[^ ]*:/;

const isProse = (text) => {
  const plain = text.replace(/\{[^}]*\}/g, '');
  return /\p{L}{2,}[,.:;]? \p{L}/u.test(plain) && !CLASSES.test(plain) && !/[<>{}=]|\b(px|rem|var)\(|--/.test(plain);
};
const hasLetters = (text) => /\p{L}/u.test(text.replace(/\{[^}]*\}/g, ''));

/** Everything in a source that somebody may read, in its order; `{…}` stands for what is put in. */
export function wordsIn(source, lang) {
  const found = new Set();
  const put = (node) => `{${source.slice(node.start, node.end).replace(/\s+/g, ' ').slice(0, 40)}}`;
  const read = (node) => {
    if (node.type === 'Literal') return typeof node.value === 'string' ? node.value : null;
    if (node.type !== 'TemplateLiteral') return null;
    return node.quasis
      .map((part, i) => part.value.cooked + (i < node.expressions.length ? put(node.expressions[i]) : ''))
      .join('');
  };
  const textOf = ({ children }) => {
    if (!children.some((child) => child.type === 'JSXText' && hasLetters(child.value))) return '';
    const parts = children.map((child) => {
      if (child.type === 'JSXText') return child.value.replace(/\s+/g, ' ');
      if (child.type !== 'JSXExpressionContainer') return '{…}';
      return child.expression.type === 'JSXEmptyExpression' ? '' : (read(child.expression) ?? put(child.expression));
    });
    return parts.join('').trim();
  };
  const visit = (node, field) => {
    if (SKIPPED.test(node.type)) return;
    if (node.type === 'JSXElement' || node.type === 'JSXFragment') {
      const text = textOf(node);
      if (text) found.add(text);
    }
    const text = read(node);
    if (text !== null && (READ.has(field) ? hasLetters(text) : isProse(text)))
      found.add(text.replace(/\s+/g, ' ').trim());
    for (const [name, value] of Object.entries(node)) {
      // A key is a name; what a field or attribute is called goes down to its value, through choices between values.
      if (name === 'key' || (node.type === 'JSXAttribute' && name === 'name')) continue;
      let inside = /^(Conditional|Logical|Parenthesized|JSXExpressionContainer)/.test(node.type) ? field : null;
      if (node.type === 'Property' && !node.computed) inside = String(node.key.name ?? node.key.value);
      if (node.type === 'JSXAttribute') inside = node.name.name;
      if (NEVER.has(inside) || /^data-/.test(inside ?? '')) continue;
      for (const child of Array.isArray(value) ? value : [value])
        if (child && typeof child === 'object' && typeof child.type === 'string') visit(child, inside);
    }
  };
  visit(parseAst(source, { lang }), null);
  return [...found];
}

const sources = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && /\.tsx?$/.test(entry.name) && !entry.name.endsWith('.d.ts'))
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name));

/** All lists by name: what is read on a stage, file by file. */
export function wordLists(root) {
  const lists = new Map(LISTS.map(([name]) => [name, []]));
  const packages = ['web', 'core', 'intake', 'folders'];
  for (const path of packages.flatMap((name) => sources(join(root, 'packages', name, 'src'))).sort()) {
    const at = relative(root, path);
    const words = wordsIn(readFileSync(path, 'utf8'), path.endsWith('x') ? 'tsx' : 'ts');
    const [list] = LISTS.find(([, where]) => where.test(at));
    if (words.length > 0) lists.get(list).push({ at, words });
  }
  return lists;
}
