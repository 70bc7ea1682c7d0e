import { PNG } from 'pngjs';
import { expect, icon, pieceRow, pieceRows, saved, test } from './app';

test('a handover set in a few actions; the source recoloured, all follow in the next delivery', async ({
  page,
  openProject,
}) => {
  await openProject('Handover', {
    'emblem.svg': icon('<circle id="leaf" cx="12" cy="12" r="9" fill="#0c6a53"/>'),
    'other.svg': icon(),
  });
  await pieceRow(page, 'emblem').click();
  await page.getByRole('button', { name: 'Variants…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('img', { name: 'emblem, Reversed' })).toBeVisible();
  await dialog.getByRole('checkbox', { name: 'Make Grey' }).click();
  await dialog.getByRole('button', { name: 'Make 4 variants' }).click();
  await expect(pieceRows(page)).toHaveCount(6);
  await expect(pieceRow(page, 'emblem-mono-light')).toContainText('follows');
  await saved(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible();

  await page.getByRole('link', { name: /^Bench/ }).click();
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('searchbox', { name: 'Find layers by name' }).fill('leaf');
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
  await page.getByRole('textbox', { name: 'x', exact: true }).fill('2');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.getByRole('button', { name: 'Export 18 files' }).click();
  await expect(page.getByRole('heading', { name: 'Delivery 2 is written and measured' })).toBeVisible();
  await expect(page.getByRole('button', { name: '15 changed' })).toBeVisible();
  await expect(page.getByRole('button', { name: '3 the same' })).toBeVisible();
});

test('one ink keeps parts apart as it is proposed; changed before it is made, told when it melts, and mended', async ({
  app,
  page,
  openProject,
}) => {
  const id = await openProject('One ink', {
    'badge.svg': icon(
      '<circle cx="12" cy="12" r="10" fill="#0c6a53"/><path id="letter" d="M9 6h6v12H9z" fill="#e8d5a9"/>',
    ),
  });
  await pieceRow(page, 'badge').click();
  await page.getByRole('button', { name: 'Variants…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Colours of Mono dark' }).click();
  const colours = dialog.getByRole('region', { name: 'Colours of Mono dark' });
  await expect(colours.getByRole('combobox', { name: 'What #e8d5a9 is' })).toHaveValue('out');
  // As plain ink the letter is gone, and it is said.
  await colours.getByRole('combobox', { name: 'What #e8d5a9 is' }).selectOption('ink');
  await expect(dialog.getByText(/#e8d5a9.* cannot be told from what is beside/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Colours of Mono light' }).click();
  await expect(
    dialog.getByRole('region', { name: 'Colours of Mono light' }).getByText('knocked out').first(),
  ).toBeAttached();
  await dialog.getByRole('button', { name: 'Make 3 variants' }).click();
  await expect(pieceRows(page)).toHaveCount(4);
  await saved(page);

  // The one that was changed melts; its mend keeps the parts apart.
  await pieceRow(page, 'badge-mono-dark').click();
  await expect(
    page.getByText('#e8d5a9 and #0c6a53 meet in the source and cannot be told apart here').last(),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Keep the parts apart' }).click();
  await expect(page.getByText(/cannot be told apart here/)).toHaveCount(0);
  await expect(page.getByRole('combobox', { name: 'What #e8d5a9 is' })).toHaveValue('out');
  await saved(page);

  // What is written is open where the letter was, and ink around it.
  const { files } = await app.api<{ files: { path: string; pieceId: string; outputId: string; widthPx: number }[] }>(
    `/projects/${id}/plan`,
  );
  const file = files.find(({ path }) => /badge-mono-dark.*\.png$/.test(path));
  if (!file) throw new Error('no PNG of it');
  const made = await fetch(`${app.url}/api/projects/${id}/files/${file.pieceId}/${file.outputId}`);
  const { data, width } = PNG.sync.read(Buffer.from(await made.arrayBuffer()));
  const alphaAt = (x: number, y: number) =>
    data[4 * (Math.round((y / 24) * width) * width + Math.round((x / 24) * width)) + 3];
  expect([alphaAt(12, 12), alphaAt(5, 12), alphaAt(0, 0)]).toEqual([0, 255, 0]);
});
