import { PNG } from 'pngjs';
import { check } from './accessibility';
import { expect, icon, pieceRow, saved, test } from './app';

const MARK = icon('<circle cx="12" cy="12" r="9" fill="#0c6a53"/>');

test('a mark has a smallest width, its colours have names and inks: files that are narrower are told, and every page of the brand sheet is seen before it is made', async ({
  page,
  openProject,
}) => {
  await openProject('Tidewater', { 'mark.svg': MARK });
  await pieceRow(page, 'mark').click();
  const onScreens = page.getByRole('textbox', { name: 'smallest on screens in px' });
  await onScreens.fill('64');
  await page.keyboard.press('Tab');
  await page.keyboard.type('9');
  await page.keyboard.press('Enter');
  // Emptied it is any width again, and one undo brings it back.
  await onScreens.fill('');
  await page.keyboard.press('Enter');
  await expect(onScreens).toHaveAttribute('placeholder', 'any');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect(onScreens).toHaveValue('64');

  await page.keyboard.press('Control+k');
  await page.keyboard.type('cmyk');
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Colours of this project' });
  await dialog.getByRole('textbox', { name: 'Name of #0c6a53' }).fill('kelp');
  const inks = dialog.getByRole('textbox', { name: 'CMYK of #0c6a53, in percent' });
  await inks.fill('88 20 70');
  await expect(dialog.getByRole('alert')).toHaveText('four numbers of 0 to 100');
  await inks.fill('C88 M20 Y70 K22');
  await page.keyboard.press('Enter');
  await dialog.getByRole('textbox', { name: 'Spot colour of #0c6a53' }).fill('Kelp 12');
  await page.keyboard.press('Enter');
  await expect(inks).toHaveValue('88 20 70 22');
  await check(page);
  await page.keyboard.press('Escape');
  await saved(page);

  await page.keyboard.press('Alt+2');
  await page.getByText('Every picture here').click();
  await page.keyboard.press('o');
  await page.getByRole('textbox', { name: 'Which files?' }).fill('png 16 128, brand');
  await page.getByRole('button', { name: /^Only these/ }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByText('16 px wide, less than the 64 px set for it')).toBeVisible();

  await page.getByRole('gridcell', { name: 'page 1 of Tidewater-brand.pdf' }).dblclick();
  const turner = page.getByRole('status').filter({ hasText: /^page \d of \d$/ });
  await expect(turner).toHaveText('page 1 of 4');
  await check(page);
  const picture = page.getByRole('img', { name: /^mark, / });
  const turned = async (key: string, words: string): Promise<PNG> => {
    const answer = page.waitForResponse((response) => response.url().includes('picture.png?page='));
    await page.keyboard.press(key);
    await expect(turner).toHaveText(words);
    const url = await picture.getAttribute('src');
    await expect.poll(async () => (await answer).url().endsWith(String(url))).toBe(true);
    return PNG.sync.read(await (await answer).body());
  };
  /** The px of a page that have the mark's colour. */
  const green = ({ data }: PNG) => {
    let count = 0;
    for (let i = 0; i < data.length; i += 4) if (data[i] === 12 && data[i + 1] === 106 && data[i + 2] === 83) count++;
    return count;
  };
  const lockups = await turned('PageDown', 'page 2 of 4');
  expect(green(lockups)).toBeGreaterThan(1000);
  const colours = await turned('PageDown', 'page 3 of 4');
  expect(green(colours)).toBeGreaterThan(10_000);
  expect(green(await turned('PageDown', 'page 4 of 4'))).toBe(0);
  await page.keyboard.press('PageDown');
  await expect(turner).toHaveText('page 4 of 4');
  await expect(page.getByRole('button', { name: /^The next page/ })).toBeDisabled();

  // Back from the sheet; what is too small is left out by its mend.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: '1 to look at' }).click();
  await page.getByRole('button', { name: /^Leave that file out/ }).click();
  await expect(page.getByText('16 px wide, less than')).toHaveCount(0);
  await expect(page.getByRole('gridcell', { name: 'mark-128.png' })).toBeVisible();
});
