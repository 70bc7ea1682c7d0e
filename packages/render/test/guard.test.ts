import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { guard, RenderPool } from '../src';
import { job } from './files';

const root = (inner: string, attrs = '') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="24" height="24" viewBox="0 0 24 24"${attrs}>${inner}</svg>`;

describe('the guard of the render process', () => {
  test('lets through what the composer writes', () => {
    guard(
      root(
        '<defs><clipPath id="a"><rect width="4" height="4"/></clipPath></defs><g clip-path="url(#a)" opacity="0.5"><path id="kelp-2" d="M0 0L4 4z" fill="#0c6a53" transform="translate(1 2)"/></g>',
      ),
    );
    guard(root('<image x="0" y="0" width="4" height="4" xlink:href="data:image/png;base64,iVBORw0KGgo="/>'));
    guard(
      root(
        '<linearGradient id="g" xlink:href="#h"><stop stop-color="rgb(1,2,3)"/></linearGradient><rect width="4" height="4" fill="url(#g)" font-family="&quot;A &amp; B&quot;"/>',
      ),
    );
  });

  const held: Record<string, string> = {
    'a path as a picture': root('<image width="4" height="4" xlink:href="/etc/passwd"/>'),
    'a file as a picture': root('<image width="4" height="4" href="file:///etc/passwd"/>'),
    'an address as a picture': root('<image width="4" height="4" xlink:href="http://127.0.0.1/x.png"/>'),
    'a drawing as a picture': root('<image width="4" height="4" xlink:href="data:image/svg+xml;base64,AAAA"/>'),
    'a picture by its name': root(`<image width="4" height="4" xlink:href="blob:${'a'.repeat(64)}"/>`),
    'a picture on another element': root('<linearGradient id="a" xlink:href="data:image/png;base64,AAAA"/>'),
    'a script': root('<script>1</script>'),
    'an event': root('<rect width="4" height="4" onload="1"/>'),
    'an event on the root': root('', ' onload="1"'),
    'a style sheet': root('<style>*{fill:red}</style>'),
    'a style': root('<rect style="fill:red" width="4" height="4"/>'),
    'a page': root('<foreignObject><p/></foreignObject>'),
    'another drawing': root('<use xlink:href="x.svg#a"/>'),
    'a reference to another file': root('<rect width="4" height="4" fill="url(x.svg#a)"/>'),
    'an escaped reference': root('<rect width="4" height="4" fill="u\\72l(http://127.0.0.1/)"/>'),
    'a set of pictures': root('<rect width="4" height="4" fill="image-set(&quot;x&quot; 1x)"/>'),
    'an instruction': `<?xml-stylesheet href="http://127.0.0.1/"?>${root('')}`,
    'a document type': `<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>${root('')}`,
    'an entity': root('<rect width="4" height="4" fill="&x;"/>'),
    'a comment': root('<!-- -->'),
    text: root('words'),
    'a quote that was not escaped': root('<rect fill="" onload="1" width="4" height="4"/>'),
    'half an element': root('<rect fill="'),
    'another root': root('').replaceAll('svg', 'html'),
    nothing: '',
  };
  test.each(Object.keys(held))('refuses %s', (name) => {
    expect(() => guard(held[name])).toThrow('no file may hold');
  });
});

describe('the render process', () => {
  const childPath = join(__dirname, '../../../dist/render-child.mjs');

  test('neither reads a file nor asks a server, whatever the drawing says', async () => {
    const asked: string[] = [];
    const bait = createServer((req, res) => {
      asked.push(String(req.url));
      res.end();
    });
    await new Promise<void>((resolve) => bait.listen(0, '127.0.0.1', resolve));
    const folder = mkdtempSync(join(tmpdir(), 'tolvik-canary-'));
    const canary = join(folder, 'canary.png');
    writeFileSync(
      canary,
      Buffer.from(
        'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
        'base64',
      ),
    );
    const address = `http://127.0.0.1:${(bait.address() as { port: number }).port}/x.png`;
    const pool = new RenderPool({ childPath, size: 1 });
    try {
      for (const target of [canary, `file://${canary}`, address])
        for (const format of ['png', 'pdf', 'svg', 'jpeg'] as const) {
          const made = pool.render(job(format, 24, `<image width="24" height="24" xlink:href="${target}"/>`));
          await expect(made).rejects.toThrow('no file may hold');
        }
    } finally {
      await pool.close();
      bait.close();
      rmSync(folder, { recursive: true });
    }
    expect(asked).toEqual([]);
  });

  test('a file whose process was ended from outside is made after all', async () => {
    const pool = new RenderPool({ childPath, size: 1 });
    try {
      await pool.render(job('png', 24));
      const pending = pool.render(job('png', 2000));
      for (const { child } of (pool as unknown as { workers: { child: { kill(signal: string): void } }[] }).workers)
        child.kill('SIGKILL');
      expect((await pending).measured.widthPx).toBe(2000);
    } finally {
      await pool.close();
    }
  });

  test('ends with who started it, in the middle of a drawing too', async () => {
    // A parent that gives its child an endless drawing, says the child's number, and is killed.
    const parent = spawn(process.execPath, ['--input-type=module', '-e', PARENT, childPath], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    const pid = await new Promise<number>((resolve) =>
      parent.stdout.on('data', (text: Buffer) => resolve(Number(text.toString()))),
    );
    parent.kill('SIGKILL');
    while (isAlive(pid)) await new Promise((resolve) => setTimeout(resolve, 100));
  });
});

const PARENT = `
import { fork } from 'node:child_process';
const child = fork(process.argv[1], [], { execArgv: [], serialization: 'advanced', stdio: ['ignore', 'ignore', 'ignore', 'ipc'], env: { ...process.env, TOLVIK_PARENT: String(process.pid) } });
const endless = '<filter id="f" x="-1000%" y="-1000%" width="2100%" height="2100%">' + '<feTurbulence baseFrequency="0.9" numOctaves="400" result="a"/><feMorphology operator="dilate" radius="200" in="a"/>'.repeat(20) + '</filter><rect width="24" height="24" filter="url(#f)"/>';
const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="3000" height="3000" viewBox="0 0 24 24">' + endless + '</svg>';
child.on('message', ({ started }) => started !== undefined && setTimeout(() => console.log(child.pid), 300));
child.send({ jobs: [{ id: 1, job: { svg, settings: { format: 'png', effort: 'faster' }, widthPx: 3000, heightPx: 3000, dpi: 96, ground: null } }] });
`;

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}
