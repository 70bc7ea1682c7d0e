import { execFileSync } from 'node:child_process';
import { join } from 'node:path';

const root = join(__dirname, '../..');

/** What the lister answers, in a process of its own: the parser it uses is a module that Jest does not load. */
function answer<T>(call: string): T {
  const code = `import * as words from './scripts/parts/words.mjs'; process.stdout.write(JSON.stringify(${call}));`;
  const options = { cwd: root, encoding: 'utf8' as const, maxBuffer: 64 * 1_048_576 };
  return JSON.parse(execFileSync(process.execPath, ['--input-type=module', '-e', code], options));
}
const wordsIn = (source: string, lang: 'ts' | 'tsx') =>
  answer<string[]>(`words.wordsIn(${JSON.stringify(source)}, '${lang}')`);

test('what somebody reads or hears is listed, with what is put in between braces', () => {
  const view = `
    export function View({ n, title }: Props) {
      tell('The export waits.');
      return (
        <p className="flex min-w-0 gap-2" aria-label={n > 1 ? 'Several' : 'One'} data-kind="some thing here">
          {n} files of <b>{title}</b> came out.
          <input placeholder={\`Find among \${n}\`} title={title} />
        </p>
      );
    }`;
  expect(wordsIn(view, 'tsx').sort()).toEqual(
    ['Find among {n}', 'One', 'Several', 'The export waits.', '{n} files of {…} came out. {…}'].sort(),
  );
});

test('names, styles, paths of drawings and markup are no sentences', () => {
  const code = `
    import { a } from 'some where else';
    type Kind = 'one thing' | 'another thing';
    const d = { d: 'M 1 1 h 9', className: 'one two', key: 'kept specs', title: 'Lay out' };
    const svg = \`<svg width="\${1}"> and more</svg>\`;`;
  expect(wordsIn(code, 'ts')).toEqual(['Lay out']);
});

test('every stage has its list', () => {
  type List = { at: string; words: string[] }[];
  const lists = new Map(answer<[string, List][]>(`[...words.wordLists(${JSON.stringify(root)})]`));
  for (const name of ['shelf', 'bench', 'proof', 'deliveries', 'everywhere', 'checks-and-acts'])
    expect(lists.get(name)?.length).toBeGreaterThan(0);
  const words = [...lists.values()].flat().flatMap((file) => file.words);
  expect(words).toEqual(expect.arrayContaining(['Trim to artwork', 'No outputs yet', 'To the shelf']));
});
