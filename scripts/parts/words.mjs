/**
 * Every sentence that somebody may read, taken from the sources themselves: listed by stage (`words/en/`), and put in
 * place of in a build in another language. Code says what it says in English, where it says it; nothing is looked up
 * while the app runs.
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
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
const PACKAGES = ['web', 'core', 'intake', 'folders'];

const named = (names) => new Set(names.split(' '));
/** Attributes and fields that somebody reads or hears, also where they are one word. */
const READ = named(
  'aria-label title label showLabel placeholder about alt note heading words unless nothing message accepted empty',
);
/** Attributes and fields that hold no language. */
const NEVER = named('className d viewBox style key id type name role href src kind transform queryKey font family');
/** Where strings are names for the program alone. */
const SKIPPED = /^(Import(?!Expression)|ExportAll|TS(?!As|NonNull|Satisfies))/;
/** Parts the two forms of a noun: "file | files". */
const OR = ' | ';

/** Classes of Tailwind, which look like words. */
const CLASSES =
  /(^|\s)(?:[a-z-]+:)?(?:[pm][xytblr]?|text|bg|border|flex|grid|gap|rounded|size|w|h|min|max|absolute|inset)-[\w[]|\b(?:hover|focus|data-\[)[^ ]*:/;

/** Names, as of fonts: our sentences have one capital. */
const NAME = /^(\p{Lu}\p{Ll}+)( \p{Lu}\p{Ll}+)+$/u;
/** Tables of words, by what they are called. */
const TABLE = /(TITLES|WORDS|LABELS|CAPTIONS)$/;

const isProse = (text) => {
  const plain = text.replace(/\{[^}]*\}/g, '');
  if (NAME.test(plain)) return false;
  return (
    /\p{L}{2,}[,.:;]? \p{L}/u.test(plain) &&
    !CLASSES.test(plain) &&
    !/[<>{}=]|\b(px|rem|var)\(|--|\dpx "|\dh\b|application\//.test(plain)
  );
};
const hasLetters = (text) => /\p{L}/u.test(text.replace(/\{[^}]*\}/g, ''));

/** Text between elements as JSX reads it: lines without their ends, parted by spaces. */
const jsxText = (raw) => {
  const lines = raw.split('\n');
  return lines
    .map((line, i) => (i > 0 ? line.trimStart() : line))
    .map((line, i) => (i < lines.length - 1 ? line.trimEnd() : line))
    .filter((line, i) => line !== '' || lines.length === 1 || (i === 0 && line))
    .join(' ');
};

/** What a value is called where it is put into a sentence: "n files", "is/are", "error.message". */
function nameOf(node, source) {
  if (node.type === 'CallExpression' && node.callee.name === 'count' && node.arguments[1]?.type === 'Literal')
    return `n ${node.arguments[2]?.value ?? `${node.arguments[1].value}s`}`;
  const [one, other] = [node.consequent, node.alternate];
  if (node.type === 'ConditionalExpression' && typeof one.value === 'string' && typeof other.value === 'string')
    return `${one.value}/${other.value}`.replace(/[{}]/g, '');
  return source.slice(node.start, node.end).replace(/\s+/g, ' ').replace(/[{}]/g, '').slice(0, 40);
}

/** Under which field or attribute what is in a node stands: it goes down to a value through choices between values. */
function fieldOf(node, field) {
  switch (node.type) {
    case 'Property':
      return node.computed ? null : field === 'table' ? 'words' : String(node.key.name ?? node.key.value);
    case 'JSXAttribute':
      return node.name.name;
    case 'VariableDeclarator':
      return TABLE.test(node.id.name) ? 'table' : null;
    case 'ObjectExpression':
      return field === 'table' ? field : null;
    default:
      return /^(Conditional|Logical|Parenthesized|JSXExpressionContainer|TS)/.test(node.type) ? field : null;
  }
}

/** What is put into a sentence, by the name that it has there. */
function slots(source) {
  const taken = new Map();
  return {
    parts: [],
    put(node, named) {
      const wanted = named ?? nameOf(node, source);
      const times = (taken.get(wanted) ?? 0) + 1;
      taken.set(wanted, times);
      const name = `{${wanted}${times > 1 ? ` ${times}` : ''}}`;
      this.parts.push({ name, start: node.start, end: node.end });
      return name;
    },
  };
}

const quasi = (text) => text.replace(/[\\`]/g, '\\$&').replace(/\$\{/g, '\\${');
const asJsx = (text) =>
  text === '' ? '' : /^[\p{L}\p{N},.;: ]*\S$/u.test(text) && text === text.trim() ? text : `{${JSON.stringify(text)}}`;

/**
 * The sentences of a source in their order: the words, where they stand (offsets in UTF-16 units), what is put into
 * them (`slots`), and how other words are written in their place (`put` writes what goes into a slot).
 */
export function sentencesIn(source, lang) {
  const found = [];
  const add = (node, text, parts, write) => found.push({ text, start: node.start, end: node.end, slots: parts, write });
  const visit = (node, field, inAttribute) => {
    if (SKIPPED.test(node.type)) return;
    // What is taken apart at once is a list of names.
    if (node.type === 'MemberExpression' && /^(Literal|TemplateLiteral)$/.test(node.object.type)) return;
    // What stands in an element is shown.
    const isElement = node.type === 'JSXElement' || node.type === 'JSXFragment';
    if (isElement) visitText(node);
    if (node.type === 'Literal' && typeof node.value === 'string') {
      if (READ.has(field) ? hasLetters(node.value) : isProse(node.value))
        add(node, node.value, [], (words) => (inAttribute ? `{${JSON.stringify(words)}}` : JSON.stringify(words)));
      return;
    }
    if (node.type === 'TemplateLiteral') {
      const holes = slots(source);
      const text = node.quasis
        .map(({ value }, i) => value.cooked + (i < node.expressions.length ? holes.put(node.expressions[i]) : ''))
        .join('');
      if (READ.has(field) ? hasLetters(text) : isProse(text)) {
        // What stands in a sentence is read, also where it is one word.
        for (const expression of node.expressions) visit(expression, 'words', false);
        add(node, text, holes.parts, (words, put) => {
          const pieces = split(words, holes.parts);
          return `\`${pieces.map((piece) => (typeof piece === 'string' ? quasi(piece) : `\${${put(piece)}}`)).join('')}\``;
        });
        return;
      }
    }
    if (node.type === 'CallExpression' && node.callee.name === 'count') visitCount(node);
    for (const [name, value] of Object.entries(node)) {
      // A key is a name.
      if (name === 'key' || (node.type === 'JSXAttribute' && name === 'name')) continue;
      const inside = fieldOf(node, field);
      if (NEVER.has(inside) || /^data-/.test(inside ?? '')) continue;
      for (const child of Array.isArray(value) ? value : [value])
        if (child && typeof child === 'object' && typeof child.type === 'string')
          visit(
            child,
            isElement && child.type === 'JSXExpressionContainer' ? 'words' : inside,
            node.type === 'JSXAttribute',
          );
    }
  };
  /** Text that stands among elements and values is one sentence with them. */
  function visitText({ children }) {
    const shown = children.filter(
      (child) => child.type !== 'JSXExpressionContainer' || child.expression.type !== 'JSXEmptyExpression',
    );
    if (!shown.some((child) => child.type === 'JSXText' && hasLetters(child.value))) return;
    const holes = slots(source);
    const text = shown
      .map((child) => {
        if (child.type === 'JSXText') return jsxText(child.value);
        if (child.type !== 'JSXExpressionContainer') return holes.put(child, '…');
        const { expression } = child;
        if (expression.type === 'Literal' && typeof expression.value === 'string') return expression.value;
        return holes.put(child, nameOf(expression, source));
      })
      .join('');
    const range = { start: children[0].start, end: children.at(-1).end };
    add(range, text, holes.parts, (words, put) =>
      split(words, holes.parts)
        .map((piece) => (typeof piece === 'string' ? asJsx(piece) : put(piece)))
        .join(''),
    );
  }
  /** A noun with a number: one form for one, the other for any other. */
  function visitCount({ arguments: [, one, many] }) {
    if (one?.type !== 'Literal' || (many && many.type !== 'Literal')) return;
    add(
      { start: one.start, end: (many ?? one).end },
      `${one.value}${OR}${many?.value ?? `${one.value}s`}`,
      [],
      (words) =>
        words
          .split(OR)
          .map((form) => JSON.stringify(form))
          .join(', '),
    );
  }
  visit(parseAst(source, { lang }), null, false);
  return found.sort((a, b) => a.start - b.start || b.end - a.end);
}

/** Words taken apart into text and slots, in their order; throws unless each slot is there once. */
function split(words, parts) {
  const pieces = [words];
  for (const part of parts) {
    const at = pieces.findIndex((piece) => typeof piece === 'string' && piece.includes(part.name));
    if (at < 0) throw new Error(`${part.name} is not in “${words}”`);
    const [before, ...after] = pieces[at].split(part.name);
    pieces.splice(at, 1, before, part, after.join(part.name));
  }
  if (pieces.some((piece) => typeof piece === 'string' && parts.some(({ name }) => piece.includes(name))))
    throw new Error(`something is put twice into “${words}”`);
  return pieces.filter((piece) => piece !== '');
}

/** A source that says other words: those that `of` has for a sentence, and its own where it has none. */
export function inOtherWords(source, lang, of) {
  const known = sentencesIn(source, lang).flatMap((sentence) => {
    const words = of(sentence.text);
    return words === undefined ? [] : [{ ...sentence, words }];
  });
  const between = (from, to) => {
    let text = '';
    let at = from;
    for (const sentence of known) {
      if (sentence.start < at || sentence.end > to) continue;
      text += source.slice(at, sentence.start) + sentence.write(sentence.words, (slot) => inside(slot, sentence));
      at = sentence.end;
    }
    return text + source.slice(at, to);
  };
  const inside = ({ start, end }) => between(start, end);
  return between(0, source.length);
}

const sources = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && /\.tsx?$/.test(entry.name) && !entry.name.endsWith('.d.ts'))
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name));

export const langOf = (path) => (path.endsWith('x') ? 'tsx' : 'ts');

/** The words of a source, each once. */
export const wordsIn = (source, lang) => [...new Set(sentencesIn(source, lang).map(({ text }) => text))];

/** All lists by name: what is read on a stage, file by file. */
export function wordLists(root) {
  const lists = new Map(LISTS.map(([name]) => [name, {}]));
  for (const path of PACKAGES.flatMap((name) => sources(join(root, 'packages', name, 'src'))).sort()) {
    const at = relative(root, path);
    const words = wordsIn(readFileSync(path, 'utf8'), langOf(path));
    const [list] = LISTS.find(([, where]) => where.test(at));
    if (words.length > 0) lists.get(list)[at.replace(/^packages\//, '').replace('/src/', '/')] = words;
  }
  return lists;
}

/** A list as it is kept: read from top to bottom, told line by line what changed. */
export const asFile = (files) => `${JSON.stringify(files, null, 2)}\n`;

/** The words of a language by those of English, from `words/LANGUAGE/*.json`. */
export function language(root, name) {
  const folder = join(root, 'words', name);
  if (!existsSync(folder)) throw new Error(`there are no words in ${folder}`);
  const files = readdirSync(folder).filter((file) => file.endsWith('.json'));
  return new Map(files.flatMap((file) => Object.entries(JSON.parse(readFileSync(join(folder, file), 'utf8')))));
}

/** What has the words of a language said while something is built, for Vite and for esbuild. */
export function speaking(name, words) {
  const isOurs = new RegExp(`packages/(${PACKAGES.join('|')})/src/.*\\.tsx?$`);
  const said = (source, path) => inOtherWords(source, langOf(path), (text) => words.get(text));
  return {
    vite: {
      name: 'speaking',
      enforce: 'pre',
      transformIndexHtml: (html) => html.replace('<html lang="en"', `<html lang="${name}"`),
      transform: (code, id) => {
        const [path] = id.split('?');
        return isOurs.test(path) ? { code: said(code, path), map: null } : undefined;
      },
    },
    esbuild: {
      name: 'speaking',
      setup({ onLoad }) {
        onLoad({ filter: isOurs }, ({ path }) => ({
          contents: said(readFileSync(path, 'utf8'), path),
          loader: langOf(path),
        }));
      },
    },
  };
}
