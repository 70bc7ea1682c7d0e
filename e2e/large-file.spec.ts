import { check } from './accessibility';
import { expect, icon, saved, test } from './app';

test('a delivered file opens large beside what was delivered before: wiped, told apart, by keys', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Looked at', {
    'anchor.svg': icon('<rect width="24" height="24" fill="#0c6a53"/>'),
    'boat.svg': icon('<path d="M2 2h9v9z"/>'),
  });
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /is written and measured/ })).toBeVisible();
  type Row = { id: string; kind: string; tag?: string };
  const { records, version } = await app.api<{ records: Row[]; version: number }>(`/projects/${id}/records`);
  const rect = records.find(({ tag }) => tag === 'rect') as Row & { attrs: Record<string, string> };
  const puts = [{ ...rect, attrs: { ...rect.attrs, width: '12' } }];
  await app.api(`/projects/${id}/edits`, { id: 'half', baseVersion: version, label: 'half', puts, removes: [] });
  await page.reload();
  await saved(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Delivery 2 is written and measured' })).toBeVisible();

  // A zip of what is shown: the two kinds of what was found.
  await page.getByRole('textbox', { name: 'Find a file of this delivery' }).fill('anchor@');
  const zip = await page.getByRole('link', { name: 'Zip of it' }).getAttribute('href');
  const bytes = await (await page.request.get(zip ?? '')).body();
  expect(bytes.includes('anchor@2x.png')).toBe(true);
  expect(bytes.includes('anchor.svg')).toBe(false);
  await page.getByRole('textbox', { name: 'Find a file of this delivery' }).fill('');

  // Both deliveries in numbers, drawn and as a table.
  await page.getByRole('button', { name: 'In numbers…' }).press('Enter');
  const figures = page.getByRole('dialog', { name: 'Deliveries in numbers' });
  await expect(figures.getByRole('row')).toHaveCount(3);
  await expect(figures.getByRole('row').nth(1)).toContainText('No. 2');
  await expect(figures.getByRole('row').nth(1)).toContainText('6');
  const painted = await figures.locator('canvas').evaluate((canvas: HTMLCanvasElement) =>
    canvas
      .getContext('2d')
      ?.getImageData(0, 0, canvas.width, canvas.height)
      .data.some((value) => value > 0),
  );
  expect(painted).toBe(true);
  await check(page);
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Look at anchor.png' }).press('Enter');
  const large = page.getByRole('dialog', { name: 'anchor.png' });
  await expect(large).toContainText(/\d+ B, before \d+ B/);
  await expect(large.getByRole('img', { name: 'anchor.png, before' })).toBeVisible();
  await expect(large.getByRole('img', { name: 'anchor.png, now' })).toBeVisible();
  await check(page);
  await large.getByRole('radio', { name: 'Difference' }).click();
  // Half of 24 × 24 px.
  await expect(large).toContainText('288 pixels move (50.0 %)');
  await expect(large.getByRole('img', { name: 'Where they differ: 288 pixels move (50.0 %)' })).toBeVisible();
  await large.getByRole('radio', { name: 'Wipe' }).click();
  const line = large.getByRole('slider');
  await line.press('ArrowLeft');
  await expect(line).toHaveAttribute('aria-valuenow', '48');
  await check(page);
  // By keys to the next file of the list, and away.
  await large.getByRole('button', { name: 'Next file' }).press('Enter');
  await expect(page.getByRole('dialog', { name: /^anchor.*\.(svg|png)$/ })).not.toHaveAttribute(
    'aria-label',
    'anchor.png',
  );
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // What is the same shows itself alone with what was before it.
  await page.getByRole('button', { name: 'Look at boat.svg' }).click();
  await expect(
    page.getByRole('dialog', { name: 'boat.svg' }).getByRole('img', { name: 'boat.svg, now' }),
  ).toBeVisible();
});

test('a delivered file of several pages is looked at page by page, each beside what it was', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Pages', {
    'anchor.svg': icon('<rect width="24" height="24" fill="#0c6a53"/>'),
    'boat.svg': icon('<path d="M2 2h9v9z"/>'),
    'wide.svg': '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 20"><rect width="60" height="20"/></svg>',
  });
  type Row = { id: string; kind: string; name?: string; settings?: { format: string }; attrs: Record<string, string> };
  const records = async () => await app.api<{ records: Row[]; version: number }>(`/projects/${id}/records`);
  const put = async (label: string, wanted: (row: Row) => boolean, change: object) => {
    const { records: rows, version } = await records();
    const puts = rows.filter(wanted).map((row) => ({ ...row, ...change }));
    await app.api(`/projects/${id}/edits`, { id: label, baseVersion: version, label, puts, removes: [] });
  };
  await put('together', (row) => row.settings?.format === 'svg', { settings: { format: 'pdf', pages: 'together' } });
  await page.reload();
  await saved(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /is written and measured/ })).toBeVisible();
  await put('off', (row) => row.kind === 'artboard' && row.name === 'wide', { specIds: [] });
  await page.reload();
  await saved(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Delivery 2 is written and measured' })).toBeVisible();

  await page.getByRole('button', { name: 'Look at Pages.pdf' }).press('Enter');
  const large = page.getByRole('dialog', { name: 'Pages.pdf' });
  const picture = (at: number, when: string) => large.getByRole('img', { name: `page ${at} of Pages.pdf, ${when}` });
  await expect(large.getByText('page 1 of 3')).toBeVisible();
  await expect(picture(1, 'now')).toBeVisible();
  await expect(picture(1, 'before')).toBeVisible();
  await check(page);
  await large.getByRole('button', { name: /^The next page/ }).click();
  await expect(picture(2, 'before')).toBeVisible();
  // By the key; what has no such page any more shows nothing, and a page is as wide as it is.
  await page.keyboard.press('PageDown');
  await expect(picture(3, 'before')).toBeVisible();
  await expect(large).toContainText('no longer made');
  await expect(picture(3, 'now')).toHaveCount(0);
  await expect(async () => {
    const box = await picture(3, 'before').boundingBox();
    expect((box?.width ?? 0) / (box?.height ?? 1)).toBeCloseTo(3, 1);
  }).toPass();
  await expect(large.getByRole('button', { name: /^The next page/ })).toBeDisabled();
  await page.keyboard.press('PageUp');
  await large.getByRole('radio', { name: 'Difference' }).click();
  await expect(large).toContainText('no pixel');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});
