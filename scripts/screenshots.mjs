/** npm run screenshots: the main views of the demo, as docs/screenshots/*.png, from a server of its own. */
import { fork } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  browserPath,
  buildIfChanged,
  checkNode,
  freePort,
  installPackages,
  needBrowser,
  root,
  say,
} from './parts/machine.mjs';
import { startPostgres } from './parts/postgres.mjs';

checkNode();
installPackages();
needBrowser();
buildIfChanged();
// Only now: on a machine that had nothing it was not there.
const { chromium } = await import('@playwright/test');
const folder = mkdtempSync(join(tmpdir(), 'tolvik-shots-'));
const out = join(root, 'docs', 'screenshots');
mkdirSync(out, { recursive: true });
/** Where deliveries go, by a path that looks the same in every picture. */
const handover = join(tmpdir(), 'handover');
rmSync(handover, { recursive: true, force: true });
mkdirSync(handover);
/** The simulated intakes, at addresses that look the same in every picture. */
const intakes = fork(join(root, 'dist', 'stand-ins.mjs'), [], { silent: true });
const addresses = await new Promise((resolve) => intakes.once('message', resolve));
const postgres = await startPostgres({ folder, port: await freePort(), durable: false });
const port = await freePort();
const server = fork(join(root, 'dist', 'server.mjs'), [], {
  env: {
    ...process.env,
    PORT: String(port),
    DATABASE_URL: postgres.url,
    TOLVIK_LOG: 'error',
    TOLVIK_FOLDERS: handover,
    TOLVIK_INTAKES: addresses.join(';'),
  },
});
await new Promise((resolve) => server.once('message', resolve));
const url = `http://127.0.0.1:${port}`;
const { seedIfEmpty } = await import(new URL('../dist/demo.mjs', import.meta.url));
await seedIfEmpty(url);

const browser = await chromium.launch({
  executablePath: browserPath(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const calm = async (ms = 1500) => {
  // A page that hears of changes is never idle for good.
  await page.waitForLoadState('networkidle', { timeout: 3000 }).catch(() => {});
  await page.waitForTimeout(ms);
};
const shot = async (name) => {
  await page.screenshot({ path: join(out, `${name}.png`) });
  say(name);
};
const open = async (project, stage = 'Bench') => {
  await page.goto(url);
  await page.getByRole('link', { name: project, exact: true }).click();
  if (stage !== 'Bench') await page.getByRole('link', { name: new RegExp(`^${stage}`) }).click();
  await calm();
};
const piece = (name) => page.getByRole('grid', { name: 'Pieces' }).getByRole('row').filter({ hasText: name }).first();

const views = {
  async deliveries() {
    await open('Harbour icons', 'Deliveries');
    const project = page.url().split('/').at(-2);
    await page.request.post(`${url}/api/projects/${project}/receivers`, {
      data: { name: 'Icon intake', address: `${addresses[0]}harbour` },
    });
    await page.getByRole('button', { name: /^Export/ }).click();
    await page.getByRole('heading', { name: /is written and measured/ }).waitFor();
    await page.getByRole('button', { name: /Icon intake.*refused \d/ }).waitFor();
    // Somebody else was there in between.
    for (const name of ['anchor.png', 'boat.png'])
      writeFileSync(join(handover, 'harbour-icons', name), 'of somebody else');
    await page.getByRole('link', { name: /^Bench/ }).click();
    await piece('kelp').dblclick();
    await page.keyboard.type('kelp-sprig');
    await page.keyboard.press('Enter');
    await piece('crate').click();
    await page.getByRole('textbox', { name: 'width' }).fill('25');
    await page.keyboard.press('Enter');
    await calm(1500);
    await page.getByRole('button', { name: /^Export/ }).click();
    await page.getByRole('heading', { name: /Delivery 2 is written and measured/ }).waitFor();
    await page.getByText(/Icon intake took \d+ files?/).waitFor();
    await calm(2500);
    await shot('deliveries');
    const delivery = (await page.request.get(`${url}/api/projects/${project}/deliveries`)).json();
    const [{ id }] = (await delivery).deliveries;
    const shown = await page.request.get(`${url}/api/deliveries/${id}/page.html`);
    writeFileSync(join(folder, 'delivery.html'), await shown.text());
    const beside = await browser.newPage({ viewport: page.viewportSize() });
    await beside.goto(`file://${join(folder, 'delivery.html')}`);
    await beside.getByRole('searchbox').fill('bold');
    await beside.screenshot({ path: join(out, 'page.png') });
    await beside.close();
    await page.getByRole('button', { name: /App build/ }).click();
    await calm();
    await shot('receiver');
  },
  async shelf() {
    await page.goto(url);
    await calm(3000);
    await shot('shelf');
  },
  async bench() {
    await open('Harbour icons');
    await piece('thermo').click();
    await calm(2500);
    await shot('bench');
  },
  async replacing() {
    await open('Season cards');
    const drawn = readFileSync(join(root, 'demo', 'season-cards', 'card.svg'), 'utf8')
      .replace(
        /<g data-name="autumn, English">.*?<\/g>/s,
        '<g data-name="Autumn"><text data-name="gale" x="620" y="120" font-family="Schibsted Grotesk" font-weight="400" font-size="60">A first gale</text></g>',
      )
      .replace('#cfe6d9', '#e9e2cf');
    await page.setInputFiles('[data-testid="bring-in"]', {
      name: 'card.svg',
      mimeType: 'image/svg+xml',
      buffer: Buffer.from(drawn),
    });
    await page.getByRole('button', { name: 'Replace 1 artwork' }).click();
    await page.getByRole('dialog', { name: /Something hangs/ }).waitFor();
    await calm(2500);
    await shot('replacing');
    await page.getByRole('button', { name: 'Not now' }).click();
  },
  async identity() {
    await open('Brinemoor identity');
    await page.getByLabel(/^Plane with/).focus();
    await page.keyboard.press(',');
    await piece('logo-wide-reversed').click();
    await calm(3000);
    await shot('identity');
  },
  async lockups() {
    await open('Brinemoor identity');
    await piece('emblem').click();
    await piece('wordmark').click({ modifiers: ['Control'] });
    await page.getByRole('button', { name: 'Lockups…' }).click();
    await calm(2500);
    await shot('lockups');
  },
  async variants() {
    await open('Brinemoor identity');
    await piece('logo-wide').click();
    await page.getByRole('button', { name: 'Variants…' }).click();
    await calm(2500);
    await page.getByRole('button', { name: 'Colours of Mono dark' }).click();
    await calm(500);
    await shot('variants');
  },
  async editions() {
    await open('Season cards');
    await page.getByLabel(/^Plane with/).focus();
    await page.keyboard.press(',');
    await piece('card-summer-en-left').click();
    await calm(3000);
    await shot('editions');
  },
  async table() {
    await open('Season cards');
    await piece('card').click();
    await page.getByRole('button', { name: 'Editions…' }).click();
    const rows = [
      ['edition', 'Wording', 'spring, English title', 'Ground', 'Swell: shown'],
      ['card-spring-de', '', 'Springflut', '', ''],
      ['card-spring-fr', '', 'Grande marée', '', ''],
      ['card-autumn-plain', 'autumn, English', '', '#e4b79b', 'no'],
      ['card-winter-plain', 'winter, Swedish', '', '#d9dfeb', 'no'],
    ];
    await page.locator('#edition-table').fill(rows.map((row) => row.join('\t')).join('\n'));
    await page.locator('#edition-table').evaluate((field) => void (field.scrollLeft = 0));
    await calm(800);
    await shot('table');
  },
  async proof() {
    await open('Brinemoor identity', 'Proof');
    await page.getByRole('radio', { name: /^On / }).click();
    await calm(3500);
    await shot('proof');
  },
  async look() {
    await open('Icons that need a look', 'Proof');
    await page.getByRole('radio', { name: /^Needs a look/ }).click();
    await page.getByRole('combobox', { name: 'Order of the rows' }).selectOption('softest edges first');
    await calm(2500);
    await shot('look');
  },
  async output() {
    await open('Brinemoor identity', 'Proof');
    await page.getByRole('button', { name: '+ Output' }).click();
    await page
      .getByRole('textbox', { name: 'Which files?' })
      .fill('1-2: svg, pdf, png 320 800 1600; 3-6: svg in set, jpeg 1600 on #12343b in office; none');
    await calm(1500);
    await shot('output');
  },
  async sheet() {
    await open('Brinemoor identity', 'Proof');
    await page.getByRole('button', { name: '+ Output' }).click();
    await page.getByRole('textbox', { name: 'Which files?' }).fill('brand');
    await page.getByRole('button', { name: /^Add/ }).last().click();
    await page.keyboard.press('Escape');
    await calm(4000);
    await page
      .getByRole('gridcell', { name: /^page 1 of .*brand/ })
      .first()
      .dblclick();
    await calm(1000);
    // Its page of lockups.
    for (let turned = 0; turned < 3; turned++) await page.keyboard.press('PageDown');
    await calm(2500);
    await shot('sheet');
    await page.keyboard.press('Escape');
  },
  async compare() {
    await open('Harbour icons', 'Proof');
    await page.getByRole('gridcell', { name: 'boat@2x.png', exact: true }).dblclick();
    await calm();
    await page.getByRole('group', { name: /^Files compared/ }).focus();
    await page.keyboard.press('b');
    await calm(1500);
    await shot('compare');
  },
  async pixels() {
    await open('Icons that need a look', 'Bench');
    await piece('jetty').click();
    await page.getByLabel(/^Plane with/).focus();
    await page.keyboard.press('p');
    await page.keyboard.press('.');
    await calm(2500);
    await shot('pixels');
  },
  async names() {
    await open('Icons that need a look', 'Bench');
    await page.getByRole('button', { name: 'Names…' }).click();
    await calm(1500);
    await shot('names');
    await page.keyboard.press('Escape');
  },
  async specs() {
    await open('Harbour icons', 'Proof');
    await page.getByRole('button', { name: 'Specs…' }).click();
    await calm(800);
    await shot('specs');
  },
};

const wanted = process.argv.slice(2);
try {
  for (const [name, take] of Object.entries(views)) if (wanted.length === 0 || wanted.includes(name)) await take();
} finally {
  await browser.close();
  server.kill('SIGTERM');
  intakes.kill();
  await new Promise((resolve) => server.once('exit', resolve));
  await postgres.stop();
  rmSync(folder, { recursive: true, force: true });
  rmSync(handover, { recursive: true, force: true });
}
