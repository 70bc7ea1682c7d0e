import { handoverPage, type PageFacts } from '../src';

const FACTS: PageFacts = {
  project: 'Harbour',
  number: 7,
  at: '2026-11-26T21:10:00.000Z',
  title: '',
  note: '',
  pieces: [
    {
      name: 'anchor',
      number: 1,
      picture: 'iVBORw==',
      ground: '#12343b',
      files: [
        { path: 'app/anchor@2x.png', bytes: 1536, size: 'PNG, 48 × 48' },
        { path: 'anchor 100%.svg', bytes: 300, size: 'SVG, 24 × 24' },
      ],
    },
    {
      name: 'boat',
      number: 2,
      picture: null,
      ground: null,
      files: [{ path: 'boat.svg', bytes: 1, size: 'SVG, 24 × 24' }],
    },
  ],
};

test('says whose it is, how many and how heavy, and has a link to each file', () => {
  const page = handoverPage(FACTS);
  expect(page).toContain('<title>Harbour: Delivery 7</title>');
  expect(page).toContain('26 November 2026: 2 pieces, 3 files, 1.8 KB');
  expect(page).toContain('<a href="app/anchor%402x.png">app/anchor@2x.png</a><span>PNG, 48 × 48 · 1.5 KB</span>');
  expect(page).toContain('<a href="anchor%20100%25.svg">');
  expect(page).toContain('src="data:image/png;base64,iVBORw=="');
  // The page shows a picture on the ground that its piece is looked at on.
  expect(page.match(/<figure[^>]*>/g)).toEqual(['<figure style="background:#12343b">', '<figure>']);
});

test('a title stands in the place of the number, and the note below', () => {
  const page = handoverPage({ ...FACTS, title: 'For the press', note: 'Black alone.\nNo shadows.' });
  expect(page).toContain('<strong>For the press</strong>');
  expect(page).toContain('<p>Black alone.\nNo shadows.</p>');
});

test('whatever stands in names, titles and notes is text and nothing else', () => {
  const evil = `"><img src=x onerror=alert(1)><script>alert(2)</script>' & </style>`;
  const page = handoverPage({
    ...FACTS,
    project: evil,
    title: evil,
    note: evil,
    pieces: [
      { name: evil, number: 1, picture: null, ground: evil, files: [{ path: `a/${evil}.svg`, bytes: 1, size: evil }] },
    ],
  });
  // One script and one style, those of the page itself; no element and no handler of a stranger.
  expect(page.match(/<script/g)).toHaveLength(1);
  expect(page.match(/<\/style>/g)).toHaveLength(1);
  expect(page).not.toMatch(/<img[^>]*onerror/);
  expect(page).not.toContain('<img');
});

test('nothing in it is fetched: no address but those of its links, which are paths', () => {
  const page = handoverPage(FACTS);
  expect(page).not.toMatch(/https?:|\/\/[a-z]|@import|url\(/);
  for (const [, href] of page.matchAll(/href="([^"]*)"/g)) expect(href).not.toMatch(/^(\/|[a-z]+:)/i);
  expect(page).toContain("default-src 'none'");
});
