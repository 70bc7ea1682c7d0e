import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { check } from './accessibility';
import { expect, icon, test } from './app';

test('a zip comes with a page that opens from a disk: every file with its picture and a link, searched by typing', async ({
  page: app,
  openProject,
}) => {
  await openProject('Page & <co>', {
    'anchor.svg': icon('<circle cx="12" cy="12" r="8"/>'),
    'boat.svg': icon('<path d="M2 2h9v9z"/>'),
  });
  await app.keyboard.press('Control+Enter');
  await expect(app.getByRole('heading', { name: /is written and measured/ })).toBeVisible();
  await app.getByRole('textbox', { name: 'Note' }).fill('Black alone.');
  await app.keyboard.press('Tab');
  const delivery = `/api/deliveries/${app.url().split('/').at(-1)}`;
  await expect.poll(async () => (await (await app.request.get(delivery)).json()).note).toBe('Black alone.');
  await app.getByRole('checkbox', { name: 'with a page that shows it all' }).press('Space');
  const href = await app.getByRole('link', { name: 'Download .zip' }).getAttribute('href');
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-page-'));
  try {
    writeFileSync(join(folder, 'a.zip'), await (await app.request.get(href ?? '')).body());
    execFileSync('unzip', ['-q', 'a.zip'], { cwd: folder });
    const asked: string[] = [];
    // A page of its own: the app's may still be fetching.
    const page = await app.context().newPage();
    page.on('request', (request) => asked.push(request.url()));
    await page.goto(`file://${folder}/delivery.html`);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Page & <co>');
    await expect(page.getByText('Black alone.')).toBeVisible();
    const pieces = page.getByRole('article');
    await expect(pieces).toHaveCount(2);
    for (const picture of await page.locator('img').all())
      expect(await picture.evaluate((img: HTMLImageElement) => img.complete && img.naturalWidth)).toBeGreaterThan(200);
    const links = await page.getByRole('link').evaluateAll((all) => all.map((each) => each.getAttribute('href') ?? ''));
    expect(links).toHaveLength(6);
    for (const link of links) expect(existsSync(join(folder, decodeURIComponent(link)))).toBe(true);
    // The page itself and the pictures in it: nothing else was asked for.
    expect(asked.filter((url) => !url.startsWith('data:'))).toHaveLength(1);
    await check(page);
    await page.getByRole('searchbox').fill('BOAT png');
    await expect(pieces).toHaveCount(1);
    await expect(page.getByRole('status')).toHaveText('1 of 2');
    await page.getByRole('searchbox').fill('');
    await expect(pieces).toHaveCount(2);
    // With some of the files it speaks of those alone.
    const some = new URL(href ?? '', 'http://x');
    some.searchParams.set('find', 'boat.');
    writeFileSync(join(folder, 'b.zip'), await (await app.request.get(some.pathname + some.search)).body());
    execFileSync('unzip', ['-q', 'b.zip', '-d', 'some'], { cwd: folder });
    await page.goto(`file://${folder}/some/delivery.html`);
    const own = await page.getByRole('link').evaluateAll((all) => all.map((each) => each.getAttribute('href') ?? ''));
    expect(own.sort()).toEqual(['boat.png', 'boat.svg']);
    for (const link of own) expect(existsSync(join(folder, 'some', link))).toBe(true);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
