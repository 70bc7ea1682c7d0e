import sharp from 'sharp';
import { command, expect, icon, pieceRow, pieceRows, saved, test } from './app';

test('trouble is told where it is, mended with one click, and undone with one', async ({ page, app, openProject }) => {
  const id = await openProject('Trouble', {
    'light.svg': icon('<circle cx="12" cy="12" r="8" fill="#fff"/>'),
    'good.svg': icon(),
  });
  const { records, version } = await app.api<{ records: Record<string, unknown>[]; version: number }>(
    `/projects/${id}/records`,
  );
  const board = records.find((record) => record.kind === 'artboard' && record.name === 'good');
  const png = records.find((record) => record.kind === 'output' && record.suffix === '@2x');
  await app.api(`/projects/${id}/edits`, {
    id: 'trouble',
    baseVersion: version,
    puts: [
      { ...board, x: 41.25 },
      { ...png, suffix: '-card', settings: { format: 'jpeg', quality: 80 } },
    ],
    removes: [],
  });

  await expect(pieceRow(page, 'good')).toContainText('starts at x 41.25, between pixels');
  await pieceRow(page, 'good').click();
  await page.getByRole('button', { name: 'Whole pixels' }).first().click();
  await expect(pieceRow(page, 'good')).toContainText('24 × 24');

  await page.getByRole('link', { name: /^Proof/ }).click();
  await expect(page.getByRole('row').filter({ hasText: 'White on white' })).toBeVisible();
  await page.getByRole('radio', { name: 'Needs a look 1' }).click();
  await page.getByRole('list', { name: 'What was found' }).getByRole('button', { name: 'Leave that file out' }).click();
  await expect(page.getByText('Nothing needs a look any more.')).toBeVisible();
  await saved(page);
  await expect(page.getByRole('button', { name: 'Export 5 files' })).toBeVisible();
  await page.getByRole('gridcell').first().or(page.getByRole('grid')).first().focus();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Export 6 files' })).toBeVisible();
});

test('a name taken twice holds the export until it is settled, in one click', async ({ page, openProject }) => {
  await openProject('Twice', { 'anchor.svg': icon(), 'boat.svg': icon('<path d="M3 3h18v9z"/>') });
  await pieceRow(page, 'boat').dblclick();
  await page.getByRole('textbox', { name: 'Name of boat' }).fill('Anchor');
  await page.keyboard.press('Enter');
  await expect(pieceRows(page).nth(1)).toContainText('its name is taken by piece 1 too');
  await pieceRows(page).nth(1).click();
  await page.getByRole('button', { name: 'Number it' }).click();
  await expect(pieceRow(page, 'Anchor-2')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Export 6 files' })).not.toHaveAttribute('aria-disabled', 'true');
});

test('how crisp small pictures are is seen, ordered by and mended in one click; one undo takes it back', async ({
  page,
  openProject,
}) => {
  await openProject('Crisp', {
    'boat.svg': icon(),
    'jetty.svg': icon('<rect id="Deck" x="3.37" y="8.3" width="17" height="3"/>'),
    'wave.svg': icon('<path d="M2 14l5-5 5 5 5-5 5 5v4z"/>'),
  });
  await page.getByRole('link', { name: /^Proof/ }).click();
  const told = page.getByText(/^0 % of its edges lie on pixels at 24 × 24: Deck is off by up to 0\.37 px$/);
  await page.getByRole('radio', { name: 'Needs a look 1' }).click();
  await expect(told.first()).toBeVisible();
  await page.getByRole('radio', { name: 'All 3' }).click();
  const figure = page.getByRole('gridcell', { name: 'jetty.png' }).getByText(/crisp$/);
  await expect(figure).toHaveText('0 % crisp');
  await page.getByRole('combobox', { name: 'Order of the rows' }).selectOption('softest edges first');
  await expect(page.getByRole('grid').getByRole('row').filter({ hasText: 'artboard' }).first()).toContainText('jetty');
  await page.getByRole('radio', { name: 'Needs a look 1' }).click();
  await page.getByRole('button', { name: 'Move the drawing' }).first().click();
  await expect(page.getByText('Nothing needs a look any more.')).toBeVisible();
  await expect(figure).toHaveText('100 % crisp');
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect(figure).toHaveText('0 % crisp');
});

test('edges that no move makes crisp are fitted by a command, for another size too; each is one undo', async ({
  page,
  openProject,
}) => {
  await openProject('Fit', {
    'jetty.svg': icon('<rect x="3.37" y="8.3" width="17.3" height="2.2"/><path d="M6 12.4h2.6v8H6z"/>'),
    'wave.svg': icon('<path d="M2 14l5-5 5 5 5-5 5 5-10 4z"/>'),
  });
  await pieceRow(page, 'jetty').click();
  await command(page, 'Fit edges to pixels');
  await expect(page.getByRole('button', { name: /^Undo: fit edges of jetty/ })).toBeVisible();
  await page.getByRole('link', { name: /^Proof/ }).click();
  const figure = page.getByRole('gridcell', { name: 'jetty.png' }).getByText(/crisp$/);
  await expect(figure).toHaveText('100 % crisp');
  await page.keyboard.press('Control+z');
  await expect(figure).toHaveText('13 % crisp');
  await page.getByRole('link', { name: /^Bench/ }).click();
  await pieceRow(page, 'wave').click();
  await command(page, 'Fit edges to pixels at 16 px wide');
  await expect(page.getByText(/^There is nothing to fit/).first()).toBeVisible();
});

test('edges between pixels are marked where they lie, as long as they do', async ({ page, openProject }) => {
  await openProject('Marks', { 'jetty.svg': icon('<rect x="3.37" y="8.3" width="17.3" height="2.2"/>') });
  await pieceRow(page, 'jetty').click();
  const plane = page.getByLabel(/^Plane with/);
  await plane.focus();
  await page.keyboard.press('.');
  /** How many px of the plane are red, as the marks are. */
  const marked = async () => {
    const { data, info } = await sharp(await plane.screenshot())
      .raw()
      .toBuffer({ resolveWithObject: true });
    let count = 0;
    for (let at = 0; at < data.length; at += info.channels)
      if (data[at] > 140 && data[at + 1] < 120 && data[at + 2] < 120) count++;
    return count;
  };
  expect(await marked()).toBeLessThan(200);
  await page.keyboard.press('p');
  // Four edges of a bar of 17.3 × 2.2 px, at 16 px of the screen each and 2 px wide; a flag has some dozen.
  await expect.poll(marked).toBeGreaterThan(1000);
  await command(page, 'Fit edges to pixels');
  await expect.poll(marked).toBeLessThan(200);
  await page.keyboard.press('Control+z');
  await expect.poll(marked).toBeGreaterThan(1000);
});
