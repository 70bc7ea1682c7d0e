import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { check } from './accessibility';
import { expect, pieceRows, saved, test } from './app';

const svg = (inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="24" height="24" viewBox="0 0 24 24">${inner}</svg>`;

test('a file that reaches out: nothing is asked for, in the app or in what is exported and opened', async ({
  page,
  app,
  openProject,
}) => {
  const asked: string[] = [];
  const bait = createServer((req, res) => {
    asked.push(String(req.url));
    res.end();
  });
  await new Promise<void>((resolve) => bait.listen(0, '127.0.0.1', resolve));
  const url = `http://127.0.0.1:${(bait.address() as AddressInfo).port}/x`;
  const values = [`url(${url})`, `u\\72l('${url}')`, `image-set('${url}' 1x)`, `src('${url}')`, `url(#a) url(${url})`];
  const inner = values
    .map((value) => `<path d="M0 0h9v9z" fill="${value}" style="filter:${value};mask:${value};cursor:${value}"/>`)
    .join('');
  const acts = `<image width="9" height="9" href="${url}"/><use href="${url}#a"/><script>fetch('${url}')</script><path onload="fetch('${url}')" d="M0 0h9v9z"/><style>@import '${url}'; path{fill:url(${url})}</style>`;
  const id = await openProject('Strangers', { 'stranger.svg': svg(inner + acts) });
  await expect(pieceRows(page)).toHaveCount(1);
  await page.getByRole('link', { name: /^Proof/ }).click();
  await expect(page.getByRole('img').first()).toBeVisible();
  const { files } = await app.api<{ files: { pieceId: string; outputId: string; format: string }[] }>(
    `/projects/${id}/plan`,
  );
  const file = files.find(({ format }) => format === 'svg');
  const text = await (await fetch(`${app.url}/api/projects/${id}/files/${file?.pieceId}/${file?.outputId}`)).text();
  // Opened by itself, and within a page, with nothing to hold it back.
  const bare = await page.context().newPage();
  await bare.setContent(`<!doctype html>${text}`);
  await bare.goto(`data:image/svg+xml,${encodeURIComponent(text)}`);
  await bare.waitForLoadState('networkidle');
  await bare.close();
  bait.close();
  expect(asked).toEqual([]);
});

test('a drawing that takes for ever can be opened, looked at and mended', async ({ page, app, openProject }) => {
  const shape = (i: number, j: number) => `<path d="M${j} 0h9v9z"${i > 0 ? ` clip-path="url(#c${i - 1})"` : ''}/>`;
  const clips = Array.from(
    { length: 30 },
    (_, i) => `<clipPath id="c${i}">${shape(i, 0)}${shape(i, 1)}${shape(i, 2)}</clipPath>`,
  ).join('');
  const id = await openProject('Heavy', {
    'heavy.svg': svg(`<defs>${clips}</defs><g id="knot"><path d="M0 0h20v20z" clip-path="url(#c29)"/></g>`),
    'light.svg': svg('<circle cx="12" cy="12" r="9"/>'),
  });
  await expect(pieceRows(page)).toHaveCount(2);
  // What is heavy is said, and everything else answers.
  await expect(page.getByText('takes too long to draw').first()).toBeVisible();
  expect((await fetch(`${app.url}/api/health`)).status).toBe(200);
  await pieceRows(page).filter({ hasText: 'heavy' }).click();
  await page.getByRole('application').or(page.locator('canvas')).first().focus();
  await page.keyboard.press('Delete');
  await expect(pieceRows(page)).toHaveCount(1);
  await saved(page);
  const { files } = await app.api<{ files: { problem?: string }[] }>(`/projects/${id}/plan`);
  expect(files).toHaveLength(3);
});

test('a delivery is deleted after a word, by keyboard, and the project stays', async ({ page, app, openProject }) => {
  const id = await openProject('Delivered', { 'kelp.svg': svg('<circle cx="12" cy="12" r="9"/>') });
  await app.api(`/projects/${id}/deliveries`, {});
  await page.getByRole('link', { name: /^Deliveries/ }).click();
  // What an earlier drawing asks of the render processes may have to come to its limit first.
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible({
    timeout: 120_000,
  });
  await page.getByRole('button', { name: 'Delete…' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alertdialog')).toContainText('This frees');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('alertdialog')).toBeHidden();
  await page.getByRole('button', { name: 'Delete…' }).click();
  await page.getByRole('button', { name: 'Delete delivery 1' }).click();
  await expect(page.getByText('No deliveries yet')).toBeVisible();
  expect((await app.api<{ deliveries: unknown[] }>(`/projects/${id}/deliveries`)).deliveries).toEqual([]);
});

test('what came in, file by file, can be read at leisure and found again after a reload', async ({
  page,
  openProject,
}) => {
  await openProject('Arrivals');
  const chosen = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring in…' }).click();
  const file = (name: string, text: string) => ({ name, mimeType: 'image/svg+xml', buffer: Buffer.from(text) });
  await (await chosen).setFiles([
    file('anchor.svg', svg('<path d="M2 2h9v9z"/>')),
    file('boat.svg', svg('<path d="M2 2h9v9z"/><script>1</script>')),
    file('broken.svg', '<svg xmlns="http://www.w3.org/2000/svg"><path d="M2'),
  ]);
  await expect(pieceRows(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Each file…' }).click();
  const dialog = page.getByRole('dialog', { name: 'What came in' });
  await expect(dialog).toContainText('2 files came in, 1 refused');
  await expect(dialog.getByRole('listitem')).toHaveCount(2);
  await expect(dialog.getByRole('listitem').filter({ hasText: 'broken.svg' })).toContainText('Refused: ');
  await expect(dialog.getByRole('listitem').filter({ hasText: 'boat.svg' })).toContainText('In, without ');
  await dialog.getByRole('radio', { name: 'All' }).click();
  await expect(dialog.getByRole('listitem')).toHaveCount(3);
  await check(page);
  await page.reload();
  await expect(pieceRows(page)).toHaveCount(2);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('left out');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('listitem')).toHaveCount(2);
});
