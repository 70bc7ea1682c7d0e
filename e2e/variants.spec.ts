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
