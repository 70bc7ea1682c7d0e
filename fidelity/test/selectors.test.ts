import { type Browser, chromium, type Page } from '@playwright/test';
import { parseColour } from '../../packages/core/src/artwork/colour/colours';
import { parseXml } from '../../packages/core/src/artwork/markup/parse-xml';
import { isElement, type XmlElement } from '../../packages/core/src/artwork/markup/xml';
import { parseSvg } from '../../packages/core/src/artwork/reading/parse-svg';
import { Places, readSelectors } from '../../packages/core/src/artwork/style/selectors';
import { browserPath } from '../../scripts/parts/machine.mjs';
import { mulberry } from '../../torture/kills';

/** How many random trees are held against the browser; `npm run fidelity -- selectors` has 5,000. */
const TREES = Number(process.env.SELECTOR_TREES ?? 120);
const RULES = 8;

let browser: Browser;
let page: Page;
beforeAll(async () => {
  browser = await chromium.launch({
    executablePath: browserPath(),
    args: ['--no-sandbox', '--disable-gpu'],
  });
  page = await browser.newPage();
  // Frames can be looked into where they come from the same place as the page.
  await page.route('**/*', (route) => route.fulfill({ contentType: 'text/html', body: '<!doctype html>' }));
  await page.goto('http://selectors.invalid/');
});
afterAll(() => browser?.close());

type Random = () => number;
const pick = <T>(random: Random, of: readonly T[]): T => of[Math.floor(random() * of.length)];
const some = <T>(random: Random, most: number, make: () => T): T[] =>
  Array.from({ length: Math.floor(random() * (most + 1)) }, make);

const CLASSES = ['a', 'b', 'c', 'd', 'A', 'ä', 'x-1', '_y'];
const TAGS = ['g', 'rect', 'circle', 'a', 'text', 'linearGradient', 'x:rect'];

/** A tree of up to a few dozen elements with classes, ids, languages and links; words and comments between them. */
function tree(random: Random, style: string): string {
  let ids = 0;
  const element = (depth: number): string => {
    const tag = depth > 3 ? 'rect' : pick(random, TAGS);
    const attrs = [
      random() < 0.6
        ? `class="${some(random, 3, () => pick(random, CLASSES)).join(pick(random, [' ', '  ', '\n']))}"`
        : '',
      random() < 0.3 ? `id="i${++ids}"` : '',
      random() < 0.15
        ? `${pick(random, ['xml:lang', 'lang'])}="${pick(random, ['de', 'en-GB', 'de-CH-1996', ''])}"`
        : '',
      random() < 0.2 ? `${pick(random, ['href', 'xlink:href'])}="#i1"` : '',
      random() < 0.2 ? `fill="${pick(random, ['#123', 'none', 'red'])}"` : '',
      random() < 0.2 ? `data-k="${pick(random, ['one', 'one two', 'en-one', 'ONE', ''])}"` : '',
    ].filter(Boolean);
    const inner = some(random, 4 - depth, () =>
      pick(random, [() => element(depth + 1), () => element(depth + 1), () => ' ', () => '<!-- c -->', () => 'word'])(),
    ).join('');
    return `<${tag} ${attrs.join(' ')}>${tag === 'x:rect' ? '' : inner}</${tag}>`;
  };
  const around = `xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:x="urn:x"`;
  const children = Array.from({ length: 3 }, () => element(0));
  children.splice(Math.floor(random() * 3), 0, `<style>${style}</style>`);
  return `<svg ${around} class="${pick(random, CLASSES)}" ${random() < 0.3 ? 'lang="en"' : ''}>${children.join('')}</svg>`;
}

const NTH = ['1', '2n', '2n+1', 'odd', 'even', '-n+2', 'n', '3', '0n+2', ' 2n + 1 ', '+n', '-1'];

function compound(random: Random, depth: number): string {
  const head =
    random() < 0.5 ? pick(random, ['g', 'rect', '*', 'circle', 'svg', 'RECT', '*|rect', 'lineargradient', 'a']) : '';
  const parts = some(random, head ? 2 : 1, () => part(random, depth));
  return head + (head || parts.length > 0 ? parts : [part(random, depth)]).join('');
}

function part(random: Random, depth: number): string {
  const kind = random();
  if (kind < 0.4) return `.${pick(random, ['a', 'b', 'c', 'd', 'A', 'ä', 'x-1', '_y', '\\61 ', 'x\\-1'])}`;
  if (kind < 0.5) return `#i${1 + Math.floor(random() * 4)}`;
  if (kind < 0.64)
    return pick(random, [
      ...['[fill]', '[class~=a]', '[class="a b"]', '[data-k|=en]', '[data-k^=o]', '[data-k$="e"]', '[data-k*="ne t"]'],
      ...['[data-k=one i]', '[fill=red]', '[data-k=""]', '[data-k^=""]', '[id]', '[*|href]', '[href]'],
      ...['[Fill]', '[id=i1]', '[id="i2"]', '[data-k!=one]', '[class~=""]', "[fill='#123']"],
    ]);
  if (kind < 0.84)
    return pick(random, [
      ...[':first-child', ':last-child', ':only-child', ':first-of-type', ':last-of-type', ':only-of-type', ':empty'],
      ...[':root', ':hover', ':link', ':any-link', ':not(:hover)', ':lang(de)', ':lang(en)'],
      ...[':defined', ':First-Child', ':visited', '::before', ':unknown', ':first', ':checked'],
      ...[`:nth-child(${pick(random, NTH)})`, `:nth-last-child(${pick(random, NTH)})`],
      ...[`:nth-of-type(${pick(random, NTH)})`, `:nth-last-of-type(${pick(random, NTH)})`],
      ...[`:nth-child(${pick(random, NTH)} of .a)`, `:nth-last-child(${pick(random, NTH)} of .b, g)`],
    ]);
  if (depth > 1) return '.a';
  return pick(random, [
    () => `:not(${list(random, depth + 1)})`,
    () => `:is(${list(random, depth + 1)})`,
    () => `:where(${list(random, depth + 1)})`,
    () => `:has(${pick(random, ['', '> ', '+ ', '~ '])}${complex(random, 2)})`,
  ])();
}

function complex(random: Random, depth: number): string {
  let text = compound(random, depth);
  for (let more = Math.floor(random() * 3); more > 0; more--)
    text += pick(random, [' ', '>', ' > ', '+', ' + ', '~', ' ~ ', '\n']) + compound(random, depth);
  return text;
}

const list = (random: Random, depth: number): string =>
  [complex(random, depth), ...some(random, 1, () => complex(random, depth))].join(pick(random, [',', ' , ']));

/** What fills each element of a tree, as a browser says it. */
function fillsOf(svg: string): string[] {
  const fills: string[] = [];
  const visit = (node: XmlElement, around: string) => {
    if (node.foreign) return;
    const fill = node.attrs.fill ?? around;
    fills.push(fill);
    for (const child of node.children) if (isElement(child)) visit(child, fill);
  };
  visit(
    parseSvg(svg, 'tree.svg', () => {}),
    '#000',
  );
  return fills.map((fill) => {
    const colour = parseColour(fill);
    return colour ? `rgb(${colour.r}, ${colour.g}, ${colour.b})` : fill;
  });
}

const elementsOf = (node: XmlElement): XmlElement[] => [node, ...node.children.filter(isElement).flatMap(elementsOf)];

test('selectors select what they select in a browser, and rules win as there', async () => {
  const random = mulberry(Number(process.env.PROPERTY_SEED ?? 29));
  const wrong: string[] = [];
  let [held, selected, unreadable] = [0, 0, 0];
  for (let from = 0; from < TREES; from += 50) {
    const cases = Array.from({ length: Math.min(50, TREES - from) }, () => {
      const selectors = Array.from({ length: RULES }, () => list(random, 0));
      const sheet = selectors
        .map((selector, i) => `${selector} { fill: #0${i}0${i}0${i}${random() < 0.15 ? ' !important' : ''} }`)
        .join('\n');
      return { selectors, svg: tree(random, sheet.replace(/&/g, '&amp;').replace(/</g, '&lt;')) };
    });
    const theirs = await page.evaluate(async (all) => {
      const answers: { matched: (boolean[] | null)[]; fills: string[] }[] = [];
      for (const { selectors, svg } of all) {
        const frame = document.createElement('iframe');
        const loaded = new Promise((resolve) => (frame.onload = resolve));
        frame.src = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
        document.body.replaceChildren(frame);
        await loaded;
        const elements = [...(frame.contentDocument as Document).querySelectorAll('*')];
        answers.push({
          matched: selectors.map((selector) => {
            try {
              return elements.map((each) => each.matches(selector));
            } catch {
              return null;
            }
          }),
          fills: elements
            .filter(({ namespaceURI, localName }) => /svg$/.test(namespaceURI ?? '') && localName !== 'style')
            .map((each) => getComputedStyle(each).fill),
        });
        URL.revokeObjectURL(frame.src);
      }
      return answers;
    }, cases);
    cases.forEach(({ selectors, svg }, at) => {
      const root = parseXml(svg, 'tree.svg');
      const elements = elementsOf(root);
      const places = new Places(root);
      selectors.forEach((selector, i) => {
        const read = readSelectors(selector, places, new Map());
        const ours = read && elements.map((each) => read.some(({ query }) => query(each)));
        const other = theirs[at].matched[i];
        held++;
        if (other?.includes(true)) selected++;
        if (!other) unreadable++;
        if (JSON.stringify(ours) !== JSON.stringify(other)) wrong.push(`${selector}: ${ours} instead of ${other}`);
      });
      if (JSON.stringify(fillsOf(svg)) !== JSON.stringify(theirs[at].fills))
        wrong.push(`${selectors.join('\n')}: ${fillsOf(svg)} instead of ${theirs[at].fills} in ${svg}`);
    });
  }
  expect(wrong.sort((a, b) => a.length - b.length).slice(0, 40)).toEqual([]);
  expect(held).toBe(TREES * RULES);
  expect(selected).toBeGreaterThan(held / 10);
  expect(unreadable).toBeGreaterThan(held / 100);
}, 600_000);
