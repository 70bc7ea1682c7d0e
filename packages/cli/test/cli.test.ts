import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SPEC_LIBRARY } from '@tolvik/core';
import { PNG } from 'pngjs';
import yazl from 'yazl';
import { client, icon, startOnOwnDatabase } from '../../server/test/running';

const cli = join(__dirname, '../../../dist/cli.mjs');
const tolvik = (...args: string[]) => spawnSync(process.execPath, [cli, ...args], { encoding: 'utf8' });
const folder = () => mkdtempSync(join(tmpdir(), 'tolvik-cli-'));

function icons(): string {
  const at = folder();
  writeFileSync(join(at, 'anchor.svg'), icon('<circle cx="12" cy="12" r="8"/>'));
  writeFileSync(
    join(at, 'boat.svg'),
    icon('<text x="2" y="12" font-size="8" font-family="Schibsted Grotesk">boat</text>'),
  );
  return at;
}

test('list says what would be made', () => {
  const { stdout, status } = tolvik('list', icons(), '--spec', 'web');
  expect(
    stdout
      .trim()
      .split('\n')
      .map((line) => line.split('\t')),
  ).toEqual([
    ['anchor.svg', '18 x 18 pt'],
    ['anchor.png', '24 x 24 px'],
    ['anchor@2x.png', '48 x 48 px'],
    ['boat.svg', '18 x 18 pt'],
    ['boat.png', '24 x 24 px'],
    ['boat@2x.png', '48 x 48 px'],
  ]);
  expect(status).toBe(0);
});

test('help names every spec that is ready-made', () => {
  const { stdout, status } = tolvik('--help');
  expect(status).toBe(0);
  for (const { key } of SPEC_LIBRARY) expect(stdout).toMatch(new RegExp(`\\b${key}[,;]`));
});

test('export writes them, and picks by number', () => {
  const out = folder();
  const { status, stdout } = tolvik('export', icons(), '--spec', 'app', '--out', out, '--pieces', '2');
  expect(status).toBe(0);
  expect(readdirSync(join(out, 'app')).sort()).toEqual(['boat.pdf', 'boat.png', 'boat@2x.png', 'boat@3x.png']);
  expect(stdout.trim().split('\n')).toHaveLength(4);
});

test('a bad file is told, the others come out, and the exit code says so', () => {
  const at = icons();
  writeFileSync(join(at, 'broken.svg'), '<svg');
  const out = folder();
  const { status, stderr } = tolvik('export', at, '--spec', 'web', '--out', out);
  expect(status).toBe(1);
  expect(stderr).toContain('broken.svg is not well-formed');
  expect(readdirSync(out)).toHaveLength(6);
});

test('two files for one path: nothing is written, both are named', () => {
  const at = icons();
  writeFileSync(join(at, 'ANCHOR.SVG'), icon());
  const out = join(folder(), 'none');
  const { status, stderr } = tolvik('export', at, '--spec', 'web', '--out', out);
  expect(status).toBe(1);
  expect(stderr).toContain('nothing was written: 6 files cannot be made as planned');
  const checked = tolvik('check', at, '--spec', 'web');
  expect(checked.status).toBe(1);
  expect(checked.stdout).toContain('! anchor: its name is taken by piece');
  expect(checked.stdout).toContain('2 errors, 0 warnings, 2 hints in 9 files');
});

test.each([
  [['export'], 2, 'a source is missing'],
  [['export', 'x'], 2, '--out is missing'],
  [['list', '/nowhere/at/all'], 1, 'there is no file or folder'],
  [['dance', 'x'], 2, 'there is no command "dance"'],
  [['list', icons()], 2, 'plain SVG files need --spec'],
  [['list', icons(), '--spec', 'poster'], 2, 'there is no spec "poster"'],
  [['list', 'x', '--colour', 'red'], 2, '--colour'],
])('%j is answered with exit code %i', (args, status, words) => {
  const result = tolvik(...args);
  expect(result.stderr).toContain(words);
  expect(result.status).toBe(status);
});

test('a project file exports to the very bytes the server makes', async () => {
  const server = await startOnOwnDatabase();
  const api = client(server.url);
  try {
    const id = await api.project('Same bytes');
    await api.bringIn(id, {
      'anchor.svg': icon('<circle cx="12" cy="12" r="8" fill="currentColor"/>'),
      'label.svg': icon('<text x="2" y="12" font-size="8" font-family="Schibsted Grotesk">kelp</text>'),
    });
    const at = folder();
    writeFileSync(join(at, 'project.svg'), await api.bytes(`/projects/${id}/project.svg`));
    expect(tolvik('export', join(at, 'project.svg'), '--out', join(at, 'out')).status).toBe(0);
    const { files } = (await api.get(`/projects/${id}/plan`)).body;
    expect(files).toHaveLength(6);
    for (const file of files)
      expect(
        readFileSync(join(at, 'out', file.path)).equals(
          await api.bytes(`/projects/${id}/files/${file.pieceId}/${file.outputId}`),
        ),
      ).toBe(true);
  } finally {
    await server.close();
  }
});

test('ends quietly when what reads it goes away', () => {
  const at = folder();
  for (let i = 0; i < 400; i++) writeFileSync(join(at, `icon-with-a-long-name-so-that-much-is-said-${i}.svg`), icon());
  for (const command of ['list', 'check']) {
    const { stdout, stderr, status } = spawnSync(
      'sh',
      ['-c', `"$0" "$1" ${command} "$2" --spec density | head -n 1`, process.execPath, cli, at],
      { encoding: 'utf8' },
    );
    expect([command, status, stdout.split('\n').length - 1]).toEqual([command, 0, 1]);
    expect(stderr).not.toMatch(/EPIPE|Error|at /);
  }
});

test('a folder with files that cannot be read: each is told by its name, the others come out', () => {
  const at = icons();
  writeFileSync(
    join(at, 'wide.svg'),
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1e300 1e300"><path d="M0 0h1v1z"/></svg>',
  );
  writeFileSync(join(at, 'broken.svg'), '<svg');
  writeFileSync(join(at, 'many.svg'), icon('<path d="M0 0h1v1z"/>'.repeat(3000)));
  const out = folder();
  const { status, stderr } = tolvik('export', at, '--spec', 'web', '--out', out);
  expect(status).toBe(1);
  expect(stderr).toContain('wide.svg');
  expect(stderr).toContain('broken.svg');
  expect(readdirSync(out)).toEqual(expect.arrayContaining(['anchor.svg', 'boat.svg', 'many.svg']));
});

test('a file that reaches out: nothing is asked for or read, and nothing of it is in what is written', async () => {
  const asked: string[] = [];
  const bait = createServer((req, res) => {
    asked.push(String(req.url));
    res.end();
  });
  await new Promise<void>((resolve) => bait.listen(0, '127.0.0.1', resolve));
  const url = `http://127.0.0.1:${(bait.address() as AddressInfo).port}/x`;
  const at = folder();
  const canary = join(at, 'canary.png');
  writeFileSync(canary, Buffer.from(CANARY, 'base64'));
  const targets = [url, canary, `file://${canary}`];
  const paints = targets.flatMap((target) =>
    [`url(${target})`, `u\\72l('${target}')`, `image-set('${target}' 1x)`].map(
      (value) => `<path d="M0 0h9v9z" fill="${value}" style="filter:${value};mask:${value}"/>`,
    ),
  );
  const pictures = targets.map(
    (target) =>
      `<image width="24" height="24" xlink:href="${target}"/><image width="24" height="24" href="${target}"/>`,
  );
  const text = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="24" height="24">${paints.join('')}${pictures.join('')}</svg>`;
  writeFileSync(join(at, 'stranger.svg'), text);
  const out = folder();
  const child = spawn(process.execPath, [cli, 'export', join(at, 'stranger.svg'), '--spec', 'app', '--out', out]);
  await new Promise((resolve) => child.once('exit', resolve));
  tolvik('export', join(at, 'stranger.svg'), '--spec', 'web', '--out', out);
  bait.close();
  expect(asked).toEqual([]);
  for (const name of readdirSync(out, { recursive: true, encoding: 'utf8' })) {
    if (!name.endsWith('.png')) continue;
    const { data } = PNG.sync.read(readFileSync(join(out, name)));
    // The picture that lay in wait is of a red that nothing else here has.
    for (let i = 0; i < data.length; i += 4)
      expect([data[i], data[i + 1], data[i + 2], data[i + 3] > 0]).not.toEqual([255, 0, 0, true]);
  }
  expect(readFileSync(join(out, 'stranger.svg'), 'utf8')).not.toMatch(/127\.0\.0\.1|canary|file:/);
});

test('pictures and zips are taken as the server takes them', async () => {
  const at = folder();
  writeFileSync(join(at, 'dot.png'), Buffer.from(CANARY, 'base64'));
  const zip = new yazl.ZipFile();
  zip.addBuffer(Buffer.from(icon()), 'set/anchor.svg');
  zip.addBuffer(Buffer.from('<svg'), 'set/broken.svg');
  zip.end();
  const chunks: Buffer[] = [];
  for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer);
  writeFileSync(join(at, 'set.zip'), Buffer.concat(chunks));
  const { stdout, stderr, status } = tolvik('list', at, '--spec', 'web');
  expect(stdout).toContain('dot.png\t1 x 1 px');
  expect(stdout).toContain('anchor.svg');
  expect(stderr).toContain('broken.svg is not well-formed');
  expect(status).toBe(1);
});

describe('do', () => {
  /** Two icons as a project file. */
  function projectFile(): string {
    const at = join(folder(), 'harbour.svg');
    expect(tolvik('do', 'trim-to-artwork', icons(), '--pieces', '1', '--out', at)).toMatchObject({ status: 0 });
    return at;
  }

  test('strokes become outlines, as on the Bench', () => {
    const from = join(folder(), 'cross.svg');
    writeFileSync(
      from,
      icon('<g id="mark" fill="none" stroke="#0c6a53" stroke-width="2"><path d="M3 12h18"/><path d="M12 3v18"/></g>'),
    );
    const at = join(folder(), 'cross.svg');
    const { status, stderr } = tolvik('do', 'strokes-to-outlines', from, '--layer', 'mark', '--out', at);
    expect([status, stderr]).toEqual([0, 'outline strokes of mark: 2 records changed, 0 removed\n']);
    const made = folder();
    expect(tolvik('export', at, '--spec', 'web', '--out', made).status).toBe(0);
    expect(readFileSync(join(made, 'cross.svg'), 'utf8')).not.toContain('stroke=');
    expect(tolvik('do', 'strokes-to-outlines', at, '--layer', 'mark')).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('nothing here has a stroke'),
    });
  });

  test('does to a project file what a hand does, and writes it back', () => {
    const file = projectFile();
    expect(tolvik('list', file, '--spec', 'web').stdout).toContain('anchor.png\t16 x 16 px');
    const { status, stderr } = tolvik(
      'do',
      'rename',
      file,
      '--pieces',
      '1-2',
      '--set',
      'rule={"kind":"template","template":"{number}-{name}"}',
    );
    expect([status, stderr]).toEqual([0, 'rename 2 pieces: 2 records changed, 0 removed\n']);
    expect(tolvik('list', file, '--spec', 'web').stdout).toContain('1-anchor.png');
  });

  test('makes editions from a table file', () => {
    const file = projectFile();
    const table = join(folder(), 'cards.csv');
    writeFileSync(table, 'edition;anchor: shown\nday;\nnight;no\n');
    const call = ['do', 'editions-from-table', file, '--pieces', '1', '--set', `table=@${table}`];
    const { status, stderr } = tolvik(...call);
    expect([status, stderr]).toEqual([0, 'editions of anchor: 2 new: 3 records changed, 0 removed\n']);
    expect(tolvik(...call)).toMatchObject({ status: 1, stderr: expect.stringContaining('as the table says') });
    expect(tolvik(...call.slice(0, -1), 'table=@gone.csv').status).toBe(1);
  });

  test('says what cannot be done, and leaves the file as it was', () => {
    const file = projectFile();
    const before = readFileSync(file);
    for (const [code, call, words] of [
      [2, ['do', 'melt', file], 'there is no act "melt"'],
      [1, ['do', 'group', file, '--pieces', '1'], 'no layer is selected'],
      [2, ['do', 'trim-to-artwork', file, '--pieces', '1', '--set', 'marginPx=wide'], 'marginPx'],
      [2, ['do', 'trim-to-artwork', file, '--pieces', '1', '--set', 'marginPx'], 'sets nothing'],
      [2, ['do', 'trim-to-artwork', icons(), '--pieces', '1'], '--out has to say'],
      [1, ['do', 'move', file, '--edition', 'night'], 'no edition called night'],
    ] as const) {
      const { status, stderr } = tolvik(...call);
      expect([call, status]).toEqual([call, code]);
      expect(stderr).toContain(words);
    }
    expect(tolvik('do', 'group').status).toBe(2);
    expect(readFileSync(file).equals(before)).toBe(true);
  });

  test('acts lists every one with its settings', () => {
    expect(tolvik('acts').stdout).toContain('trim-to-artwork\tTrim to artwork\tmarginPx');
  });
});

/** A red px. */
const CANARY = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==';

test('verify holds a folder against the receipt of its delivery: missing, changed, extra', async () => {
  const root = folder();
  const server = await startOnOwnDatabase({ TOLVIK_FOLDERS: root });
  try {
    const api = client(server.url);
    const id = await api.project('Harbour');
    await api.bringIn(id, { 'anchor.svg': icon() });
    const receiver = (await api.post(`/projects/${id}/receivers`, { name: 'Build', root, folder: 'icons' })).body;
    await api.patch(`/receivers/${receiver.id}`, { on: false });
    const { id: delivery } = (await api.post(`/projects/${id}/deliveries`)).body;
    while ((await api.get(`/deliveries/${delivery}`)).body.state === 'running')
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect((await api.post(`/receivers/${receiver.id}/write`)).status).toBe(200);
    const at = join(root, 'icons');
    const whole = tolvik('verify', at);
    expect([whole.status, whole.stdout]).toEqual([0, '3 files as delivery 1 of Harbour wrote them\n']);
    writeFileSync(join(at, 'anchor.png'), 'else');
    writeFileSync(join(at, 'notes.txt'), 'mine');
    rmSync(join(at, 'anchor.svg'));
    const differs = tolvik('verify', at);
    expect(differs.status).toBe(1);
    expect(differs.stdout.trim().split('\n').sort()).toEqual([
      '3 differences from delivery 1 of Harbour',
      'changed: anchor.png',
      'extra: notes.txt',
      'missing: anchor.svg',
    ]);
    writeFileSync(join(at, 'delivery.json'), '{}');
    expect(tolvik('verify', at)).toMatchObject({ status: 2, stderr: expect.stringContaining('is no receipt') });
    expect(tolvik('verify', folder())).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('there is no delivery.json'),
    });
  } finally {
    await server.close();
  }
});

describe('export with a receipt', () => {
  const exported = (at: string, out: string, ...more: string[]) =>
    tolvik('export', at, '--spec', 'web', '--out', out, '--receipt', ...more);
  const times = (out: string) => new Map(readdirSync(out).map((name) => [name, statSync(join(out, name)).mtimeMs]));

  test('writes only what differs; the second time not a byte, and verify agrees', () => {
    const [at, out] = [icons(), folder()];
    const first = exported(at, out);
    expect([first.status, first.stderr.trim()]).toEqual([0, `6 of 6 files are in ${out}`]);
    expect(tolvik('verify', out).status).toBe(0);
    const before = times(out);
    expect(exported(at, out).stderr.trim()).toBe(`6 of 6 files are in ${out}, 6 of them the same as before`);
    expect(times(out)).toEqual(before);
    writeFileSync(join(at, 'anchor.svg'), icon('<circle cx="12" cy="12" r="5"/>'));
    expect(exported(at, out).stderr.trim()).toBe(`6 of 6 files are in ${out}, 3 of them the same as before`);
    expect(tolvik('verify', out).status).toBe(0);
  });

  test('what is left over is listed, and taken away when it is said; what is of others stays without a word for it', () => {
    const [at, out] = [icons(), folder()];
    exported(at, out);
    rmSync(join(at, 'boat.svg'));
    writeFileSync(join(out, 'anchor.png'), 'of somebody else');
    const told = exported(at, out);
    expect(told.status).toBe(1);
    expect(told.stderr).toContain('! anchor.png: somebody else put or changed it; --replace replaces it');
    expect(told.stderr).toContain('- boat.png: left over from before; --leftovers remove takes it away');
    expect(readFileSync(join(out, 'anchor.png'), 'utf8')).toBe('of somebody else');
    const done = exported(at, out, '--leftovers', 'remove', '--replace');
    expect([done.status, done.stderr.trim()]).toEqual([
      0,
      `3 of 3 files are in ${out}, 2 of them the same as before, 3 left over taken away`,
    ]);
    expect(readdirSync(out).sort()).toEqual(['anchor.png', 'anchor.svg', 'anchor@2x.png', 'delivery.json']);
    expect(tolvik('verify', out).status).toBe(0);
  });

  test('a place that is no folder is said in words, and the exit code says so', () => {
    const out = join(folder(), 'taken');
    writeFileSync(out, '');
    const { status, stderr } = exported(icons(), out);
    expect(status).toBe(1);
    expect(stderr).toContain(`something on the way to ${out} is no folder`);
  });

  test('some pieces say nothing of the others; options that need a receipt say so', () => {
    const [at, out] = [icons(), folder()];
    exported(at, out);
    expect(exported(at, out, '--pieces', 'boat', '--leftovers', 'remove').status).toBe(0);
    expect(readdirSync(out)).toHaveLength(7);
    expect(tolvik('verify', out).status).toBe(0);
    expect(tolvik('export', at, '--spec', 'web', '--out', out, '--replace')).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('need --receipt'),
    });
    expect(exported(at, out, '--leftovers', 'burn').status).toBe(2);
  });
});

describe('rules of a receiver', () => {
  const rulesFile = (rules: object) => {
    const path = join(folder(), 'rules.json');
    writeFileSync(path, JSON.stringify({ version: 1, name: 'Build', ...rules }));
    return path;
  };

  test('what breaks them is told by check, and export writes the rest', () => {
    const at = icons();
    writeFileSync(join(at, 'Crate.svg'), icon('<path d="M3 3h18v18H3z"/>'));
    const rules = rulesFile({ names: { letters: 'small' }, formats: ['png'], pixels: { alpha: 'any' } });
    const checked = tolvik('check', at, '--spec', 'web', '--rules', rules);
    expect(checked.stdout).toContain('! Crate.svg: Build takes names in small letters');
    expect(checked.stdout).toContain('! anchor.svg: Build takes PNG, no SVG');
    const out = folder();
    const { status, stderr } = tolvik('export', at, '--spec', 'web', '--out', out, '--rules', rules);
    expect(status).toBe(1);
    expect(readdirSync(out).sort()).toEqual(['anchor.png', 'anchor@2x.png', 'boat.png', 'boat@2x.png']);
    expect(stderr).toContain('! Crate.png: Build takes names in small letters');
    expect(stderr).toContain('4 of 9 files are in');
    expect(stderr).toContain('5 not taken');
  });

  test('weights are those of the written files', () => {
    const out = folder();
    const { stderr } = tolvik(
      'export',
      icons(),
      '--spec',
      'web',
      '--out',
      out,
      '--rules',
      rulesFile({ largestBytes: 1 }),
    );
    expect(readdirSync(out)).toEqual([]);
    expect(stderr).toMatch(/anchor\.png: Build takes files of up to 0 KB, this is 0\.\d KB/);
  });

  test('a file that holds no rules is said, and nothing is written', () => {
    const out = folder();
    for (const [rules, words] of [
      [rulesFile({ largestBytes: -1 }), 'largestBytes'],
      [join(out, 'nowhere.json'), 'there is no file'],
    ]) {
      const { status, stderr } = tolvik('export', icons(), '--spec', 'web', '--out', join(out, 'a'), '--rules', rules);
      expect(status).not.toBe(0);
      expect(stderr).toContain(words);
    }
    expect(readdirSync(out)).toEqual([]);
  });
});

test('a spec that was saved as a file makes its files', () => {
  const path = join(folder(), 'sizes.json');
  const output = (widthPx: number) => ({
    size: { kind: 'width', widthPx },
    suffix: `-${widthPx}`,
    settings: { format: 'png' },
  });
  writeFileSync(
    path,
    JSON.stringify({ tolvik: 'spec', version: 1, spec: { name: 'Sizes' }, outputs: [output(16), output(32)] }),
  );
  const out = folder();
  expect(tolvik('export', icons(), '--spec', path, '--out', out).status).toBe(0);
  expect(readdirSync(out).sort()).toEqual(['anchor-16.png', 'anchor-32.png', 'boat-16.png', 'boat-32.png']);
  expect(PNG.sync.read(readFileSync(join(out, 'boat-32.png'))).width).toBe(32);
  writeFileSync(path, '{"tolvik":"spec","version":99}');
  expect(tolvik('export', icons(), '--spec', path, '--out', out).stderr).toContain('saved by a newer Tolvik');
});
