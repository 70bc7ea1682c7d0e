import { check } from './accessibility';
import { expect, icon, test } from './app';

test('what a drawing was a delivery ago comes back piece by piece, by keyboard, and one undo takes it away', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Then and now', {
    'anchor.svg': icon('<rect id="stock" x="4" y="4" width="9" height="3"/>'),
    'boat.svg': icon(),
  });
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible();
  const { files } = await app.api<{ files: { path: string; now: { key: string } }[] }>(
    `/deliveries/${page.url().split('/').at(-1)}`,
  );
  // The drawing comes back otherwise, and the other one is deleted.
  type Stored = { id: string; kind: string; name: string };
  const { records } = await app.api<{ records: Stored[] }>(`/projects/${id}/records`);
  const stock = records.find(({ name }) => name === 'stock') as Stored;
  const boat = records.find(({ kind, name }) => kind === 'artboard' && name === 'boat') as Stored;
  const { version } = await app.api<{ version: number }>(`/projects/${id}/records`);
  const edit = { id: 'otherwise', baseVersion: version, label: 'otherwise', removes: [boat.id] };
  const puts = [{ ...stock, attrs: { x: '1', y: '1', width: '20', height: '20' } }];
  await app.api(`/projects/${id}/edits`, { ...edit, puts });

  await page.getByRole('button', { name: 'Bring back…' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Bring back what delivery 1 was made of' });
  const rows = dialog.getByRole('listitem');
  await expect(rows).toHaveCount(2);
  await expect(rows.filter({ hasText: 'anchor' })).toContainText('other artwork');
  await expect(rows.filter({ hasText: 'boat' })).toContainText('gone since');
  for (const picture of await rows.filter({ hasText: 'anchor' }).locator('img').all())
    await expect.poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(10);
  await check(page);
  await dialog.getByRole('button', { name: 'Take back anchor' }).press('Enter');
  await expect(rows).toHaveCount(1);
  await dialog.getByRole('button', { name: 'Bring back boat' }).press('Enter');
  await expect(dialog).toContainText('Every piece is as it was then.');
  await page.keyboard.press('Escape');

  // The files are those of then.
  const keys = async () => {
    const { files: now } = await app.api<{ files: { path: string; key: string }[] }>(`/projects/${id}/plan`);
    return now.map(({ path, key }) => `${path} ${key}`).sort();
  };
  expect(await keys()).toEqual(files.map((file) => `${file.path} ${file.now.key}`).sort());
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await keys()).filter((key) => key.startsWith('boat'))).toEqual([]);
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: 'Bring back…' }).press('Enter');
  await expect(rows).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Take back all 2' }).press('Enter');
  await expect(dialog).toContainText('Every piece is as it was then.');
  // All of it also stands as a project of its own.
  await dialog.getByRole('button', { name: 'Open it as a project of its own' }).press('Enter');
  await expect(page).toHaveURL(/bench$/);
  await expect(page).not.toHaveURL(new RegExp(id));
  await expect(page.getByText('Then and now, as in delivery 1')).toBeVisible();
});
