import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { check } from './accessibility';
import { expect, icon, pieceRows, test } from './app';

const root = mkdtempSync(join(tmpdir(), 'tolvik-accessible-'));
test.use({ folders: root });
test.afterAll(() => rmSync(root, { recursive: true, force: true }));

test.slow();

test('an accessibility checker finds nothing in what takes deliveries: a new receiver, its steps and its rules; artboards for groups, colours inside one', async ({
  page,
  openProject,
}) => {
  await openProject('Taken', {
    'pair.svg': icon(
      '<g id="one"><path d="M2 2h8v8z" fill="#0c6a53"/></g><g id="two"><path d="M12 12h8v8z" fill="#d2452a"/></g>',
    ),
  });
  await pieceRows(page).first().click();
  await page.getByRole('button', { name: '2 artboards for its groups…' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await check(page);
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
  await expect(page.getByRole('list', { name: 'Colours in it' })).toBeVisible();
  await check(page);
  await page.keyboard.press('Alt+3');
  const receivers = page.getByRole('region', { name: 'Receivers' });
  await receivers.getByRole('button', { name: 'New…' }).click();
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeVisible();
  await check(page);
  await page.getByRole('textbox', { name: 'Name' }).fill('Build');
  await page.keyboard.press('Enter');
  await receivers.getByRole('button', { name: /Build/ }).click();
  await page.getByRole('combobox', { name: 'Rules' }).selectOption({ label: 'as an app build does' });
  await expect(page.getByRole('textbox', { name: 'Name of the rules' })).toHaveValue('App build');
  await check(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+Enter');
  await expect(receivers.getByRole('button', { name: /Build/ })).toContainText('in step since');
  await receivers.getByRole('button', { name: /Build/ }).click();
  await expect(page.getByRole('list', { name: 'What will be done' })).toBeVisible();
  await check(page);
});
