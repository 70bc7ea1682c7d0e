import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const root = join(__dirname, '../..');

/** What a script of the lister answers, in a process of its own: the parser it uses is a module that Jest does not load. */
function answer<T>(script: string): T {
  const code = `import { readFileSync, readdirSync } from 'node:fs';
    import { join } from 'node:path';
    import { build } from 'esbuild';
    import { parseAst } from 'vite';
    import * as words from './scripts/parts/words.mjs';
    const root = ${JSON.stringify(root)};
    const answer = async () => { ${script} };
    process.stdout.write(JSON.stringify(await answer()));`;
  const options = {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 64 * 1_048_576,
    stdio: ['ignore', 'pipe', 'pipe'],
  } as const;
  return JSON.parse(execFileSync(process.execPath, ['--input-type=module', '-e', code], options));
}
const wordsIn = (source: string, lang: 'ts' | 'tsx') =>
  answer<string[]>(`return words.wordsIn(${JSON.stringify(source)}, '${lang}')`);
const inOtherWords = (source: string, lang: 'ts' | 'tsx', said: Record<string, string>) =>
  answer<string>(`const said = ${JSON.stringify(said)};
    return words.inOtherWords(${JSON.stringify(source)}, '${lang}', (text) => said[text]);`);

const VIEW = `
  const TITLES = { one: 'Single', two: 'Several at once' };
  export function View({ n, title }: Props) {
    tell('The export waits.');
    return (
      <p className="flex min-w-0 gap-2" aria-label={n > 1 ? 'Several' : 'One'} data-kind="some thing here">
        {count(n, 'file')} of <b>{title}</b>{' '}
        came out.
        <input placeholder={\`Find among \${n}\`} title={title} />
        <i>{n === 1 ? 'is' : 'are'}</i>
      </p>
    );
  }`;

test('what somebody reads or hears is listed, with what is put in between braces', () => {
  expect(wordsIn(VIEW, 'tsx')).toEqual([
    'Single',
    'Several at once',
    'The export waits.',
    'Several',
    'One',
    '{n files} of {…} came out.{… 2}{… 3}',
    'file | files',
    'Find among {n}',
    'is',
    'are',
  ]);
});

test('names, styles, paths of drawings, lists of names and markup are no sentences', () => {
  const code = `
    import { a } from 'some where else';
    type Kind = 'one thing' | 'another thing';
    const d = { d: 'M 1 1 h 9', className: 'one two', key: 'kept specs', family: 'Spline Sans Mono', title: 'Lay out' };
    const names = 'fill stroke width'.split(' ');
    const svg = \`<svg width="\${1}"> and more</svg>\`;`;
  expect(wordsIn(code, 'ts')).toEqual(['Lay out']);
});

test('other words stand where the English ones stood, in an order of their own, and what is put in stays', () => {
  const said = inOtherWords(VIEW, 'tsx', {
    'The export waits.': 'Der "Export" wartet.',
    One: 'Eine',
    '{n files} of {…} came out.{… 2}{… 3}': 'Aus {…} kamen {n files} <heraus>.{… 2}{… 3}',
    'file | files': 'Datei | Dateien',
    'Find among {n}': 'Unter {n} `suchen`',
    are: 'sind',
  });
  expect(said).toContain(`tell("Der \\"Export\\" wartet.")`);
  expect(said).toContain(`n > 1 ? 'Several' : "Eine"`);
  expect(said).toContain(`{"Aus "}<b>{title}</b>{" kamen "}{count(n, "Datei", "Dateien")}{" <heraus>."}<input`);
  // biome-ignore lint/suspicious/noTemplateCurlyInString: a source as it is written
  expect(said).toContain('placeholder={`Unter ${n} \\`suchen\\``}');
  expect(said).toContain(`{n === 1 ? 'is' : "sind"}`);
  expect(said).toContain('className="flex min-w-0 gap-2"');
});

test('a sentence that leaves out what is put in, or has it twice, is refused', () => {
  // biome-ignore lint/suspicious/noTemplateCurlyInString: a source as it is written
  const source = 'tell(`Find among ${n} files`);';
  expect(() => inOtherWords(source, 'ts', { 'Find among {n} files': 'Suchen' })).toThrow('{n} is not in');
  expect(() => inOtherWords(source, 'ts', { 'Find among {n} files': '{n} von {n}' })).toThrow('twice');
});

test('words/en is what the sources say, stage by stage: npm run words writes it anew', () => {
  const lists = answer<[string, string][]>(
    'return [...words.wordLists(root)].map(([name, files]) => [name, words.asFile(files)])',
  );
  expect(lists.map(([name]) => name)).toEqual([
    'shelf',
    'bench',
    'proof',
    'deliveries',
    'everywhere',
    'checks-and-acts',
    'refusals',
  ]);
  for (const [name, file] of lists) expect(readFileSync(join(root, 'words', 'en', `${name}.json`), 'utf8')).toBe(file);
});

test('every source can say other words all through: it is code still, and nothing that it says is English', () => {
  const { sentences, left } = answer<{ sentences: number; left: string[] }>(`
    // Letters as wide as those of Chinese, so that what was not replaced is seen.
    const wide = (text) => text.replace(/\\{[^}]*\\}|[A-Za-z]/g, (letter) =>
      letter.length > 1 ? letter : String.fromCharCode(letter.charCodeAt(0) + 0xfee0));
    let sentences = 0;
    const left = [];
    for (const name of ['web', 'core', 'intake', 'folders'])
      for (const entry of readdirSync(join(root, 'packages', name, 'src'), { withFileTypes: true, recursive: true })) {
        if (!entry.isFile() || !/\\.tsx?$/.test(entry.name) || entry.name.endsWith('.d.ts')) continue;
        const path = join(entry.parentPath ?? entry.path, entry.name);
        const source = readFileSync(path, 'utf8');
        const lang = words.langOf(path);
        sentences += words.sentencesIn(source, lang).length;
        const said = words.inOtherWords(source, lang, wide);
        parseAst(said, { lang });
        for (const { text } of words.sentencesIn(said, lang))
          if (/[A-Za-z]/.test(text.replace(/\\{[^}]*\\}/g, ''))) left.push(text);
      }
    return { sentences, left };`);
  expect(sentences).toBeGreaterThan(2000);
  expect(left).toEqual([]);
});

test('a build in another language says its words, with what is put in, and does what it did', () => {
  const said = answer<string[]>(`
    const known = new Map([
      ['They are called so already', 'So heißen sie schon'],
      ['rename {n pieces}', '{n pieces} umbenannt'],
      ['piece | pieces', 'Stück | Stücke'],
    ]);
    const { outputFiles: [{ text }] } = await build({
      stdin: { contents: "export * from './packages/core/src/index.ts'", resolveDir: root, loader: 'ts' },
      bundle: true, format: 'esm', platform: 'node', write: false, external: ['fontkit', 'svgo', 'css-tree', 'zod', 'saxes', 'papaparse', '@noble/*', 'nanoid', 'culori', 'flatbush', 'svgpath', 'css-*', 'fractional-indexing'],
      plugins: [words.speaking('de', known).esbuild],
    });
    const { mkdirSync, writeFileSync, rmSync } = await import('node:fs');
    mkdirSync(join(root, '.tolvik'), { recursive: true });
    const path = join(root, '.tolvik', 'in-other-words-' + process.pid + '.mjs');
    writeFileSync(path, text);
    try {
      const core = await import(path);
      const doc = new core.ProjectDocument();
      for (const [i, name] of ['a', 'b'].entries())
        doc.apply({ puts: [core.artboardRecord.parse({ id: name, kind: 'artboard', order: 'a' + i, name, x: 40 * i, y: 0, width: 24, height: 24 })], removes: [] });
      const rule = (letterCase) => ({ ids: ['a', 'b'], settings: { rule: { kind: 'case', letterCase } } });
      const up = core.performRequest(doc, 'rename', { ids: ['a', 'b'], settings: { rule: { kind: 'template', template: '{name}-x' } } });
      let refused = '';
      try { core.performRequest(doc, 'rename', rule('lower')); } catch (error) { refused = error.message; }
      return [up.label, refused];
    } finally { rmSync(path); }`);
  expect(said).toEqual(['2 Stücke umbenannt', 'so heißen sie schon']);
});
