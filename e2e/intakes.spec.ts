import { check } from './accessibility';
import { expect, icon, pieceRow, saved, test } from './app';

test.use({ withIntakes: true });

test('an intake takes what fits its rules and says of each other file why not; once mended, only that is sent', async ({
  page,
  openProject,
  intakes: [build],
}) => {
  await openProject('Sent', { 'anchor.svg': icon(), 'Boat.svg': icon('<path d="M2 2h9v9z"/>') });
  await page.keyboard.press('Alt+3');
  const receivers = page.getByRole('region', { name: 'Receivers' });
  await receivers.getByRole('button', { name: 'New…' }).press('Enter');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'An intake over HTTP' }).click();
  await dialog.getByRole('textbox', { name: 'Name' }).fill('App build');
  await dialog.getByRole('textbox', { name: 'Address' }).fill('http://127.0.0.1:9/');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('alert')).toContainText('none of those this server may send to');
  await dialog.getByRole('textbox', { name: 'Address' }).fill(`${build}sent`);
  await dialog.getByRole('button', { name: 'Add a header' }).click();
  await dialog.getByRole('textbox', { name: 'Name of the header' }).fill('X-Team');
  await dialog.getByLabel('What it says').fill('icons');
  await check(page);
  await dialog.getByRole('button', { name: 'Add receiver' }).click();
  const row = receivers.getByRole('button', { name: /App build/ });
  await expect(row).toContainText('takes the next export');

  await page.keyboard.press('Control+Enter');
  await expect(row).toContainText('has No. 1; refused 3');
  const files = page.getByRole('table', { name: 'Files of the delivery' });
  await expect(page.getByRole('region', { name: 'Delivery 1' })).toContainText('App build took 3 files');
  await page.getByRole('button', { name: '3 refused' }).click();
  await expect(files.getByRole('row')).toHaveCount(3);
  await expect(files).toContainText('App build refused it: it takes names in small letters');
  await check(page);

  await page.keyboard.press('Alt+1');
  await pieceRow(page, 'Boat').dblclick();
  await page.getByRole('textbox', { name: 'Name of Boat' }).fill('boat');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.keyboard.press('Alt+3');
  await page.keyboard.press('Control+Enter');
  await expect(row).toContainText('in step since');
  await expect(page.getByRole('region', { name: 'Delivery 2' })).toContainText('App build took 3 files');
  await row.press('Enter');
  await expect(dialog.getByRole('list', { name: 'What will be done' })).toContainText('the same');
  await expect(dialog.getByRole('button', { name: 'Nothing to send' })).toBeDisabled();
  await expect(dialog).toContainText('It gets X-Team; what they say is kept secret.');
  await check(page);
});

test('an intake that lets nobody in is told where one works, and a new key settles it', async ({
  page,
  openProject,
  intakes: [, print],
}) => {
  await openProject('To print', { 'flyer.svg': icon() });
  await page.keyboard.press('Alt+2');
  await page.getByRole('button', { name: 'Change output PNG 1×' }).click();
  await page.getByRole('combobox', { name: 'Format' }).selectOption('pdf');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Alt+3');
  const receivers = page.getByRole('region', { name: 'Receivers' });
  await receivers.getByRole('button', { name: 'New…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'An intake over HTTP' }).click();
  await dialog.getByRole('textbox', { name: 'Name' }).fill('Print shop');
  await dialog.getByRole('textbox', { name: 'Address' }).fill(print);
  await page.keyboard.press('Enter');
  const row = receivers.getByRole('button', { name: /Print shop/ });
  await expect(row).toContainText('takes the next export');
  await page.keyboard.press('Control+Enter');
  await expect(row).toContainText('the intake asks for a key that its headers do not have');
  await row.click();
  await dialog.getByRole('button', { name: 'Headers…' }).click();
  await dialog.getByRole('textbox', { name: 'Name of the header' }).fill('Authorization');
  await dialog.getByLabel('What it says').fill('Bearer proof-before-print');
  await dialog.getByRole('button', { name: 'Send these' }).click();
  await expect(dialog).toContainText('It gets Authorization');
  await dialog.getByRole('button', { name: /^Send \d files$/ }).click();
  await expect(dialog.getByRole('button', { name: 'Send 2 files' })).toBeEnabled();
  await page.keyboard.press('Escape');
  await expect(row).toContainText('refused 2');
});
