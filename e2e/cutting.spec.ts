import { command, expect, icon, pieceRow, saved, test } from './app';
import { delivered } from './hand';

/** A ring that is a stroke, a disc under a letter, and a hairline. */
const MARK = icon(
  '<circle cx="12" cy="12" r="10" fill="#0c6a53"/><path d="M9 6h6v9H9z" fill="#e8d5a9"/><path d="M4 19q8-5 16 0" fill="none" stroke="#12343b" stroke-width="1.5" stroke-linecap="round"/>',
);
const FADED = icon(
  '<circle cx="9" cy="12" r="7" fill="#0c6a53"/><circle cx="15" cy="12" r="7" fill="#b4602a" opacity=".5"/>',
);

test('to the cutter: shapes united by colour in mm, an EPS beside it, and what nobody could cut is told', async ({
  page,
  openProject,
}) => {
  await openProject('To the cutter', { 'mark.svg': MARK, 'faded.svg': FADED });
  await expect(pieceRow(page, 'mark')).toBeVisible();
  await page.getByRole('link', { name: /^Proof/ }).click();
  await page.getByRole('button', { name: '+ Output' }).click();
  await page.getByRole('textbox', { name: 'Which files?' }).fill('svg pdf eps 40mm united');
  await page.keyboard.press('Shift+Enter');
  await expect(page.getByText('could not be united by colour').first()).toBeVisible();

  // As it is typed, so it stands in the settings of the column.
  await page.getByRole('button', { name: 'Change output SVG 40 mm' }).click();
  await expect(page.getByRole('combobox', { name: 'Shapes' })).toHaveValue('united');
  await expect(page.getByRole('combobox', { name: 'Width and height' })).toHaveValue('mm');
  await expect(page.getByRole('textbox', { name: 'Width in mm' })).toHaveValue('40');
  await page.getByRole('textbox', { name: 'Parts and gaps thinner than so many mm are told' }).fill('3');
  await page.keyboard.press('Enter');
  await saved(page);
  await expect(page.getByText(/are thinner than 3 mm/).first()).toBeVisible();
  await page.getByRole('combobox', { name: 'Room around the artwork' }).selectOption('Square');
  await saved(page);
  if (process.env.SHOT) await page.screenshot({ path: process.env.SHOT });
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: /^Export 6 files/ }).click();
  const files = await delivered(page);
  const text = (path: string) => files.get(path)?.toString('latin1') ?? '';
  expect(text('mark.svg')).toMatch(/width="40mm" height="40mm"/);
  expect(text('mark.svg').match(/<[a-z]+/gi)).toEqual(['<svg', '<path', '<path', '<path']);
  expect(text('mark.svg')).not.toMatch(/stroke/);
  expect(text('mark.pdf')).not.toMatch(/ExtGState|\/Group/);
  expect(text('mark.eps')).toMatch(/^%!PS-Adobe-3\.0 EPSF-3\.0\n%%BoundingBox: 0 0 114 114\n/);
  expect(text('mark.eps')).not.toMatch(/stroke$|image$/m);
  // Half transparent parts have no vectors in PostScript.
  expect(text('faded.eps')).toMatch(/image$/m);
  expect(text('faded.svg')).toMatch(/opacity="\.5"/);
});

test('on the Bench strokes become outlines and shapes one, by command, and one undo takes each back', async ({
  page,
  openProject,
}) => {
  await openProject('By hand', { 'mark.svg': MARK });
  await expect(pieceRow(page, 'mark')).toBeVisible();
  const paint = async () => {
    await page.keyboard.press('Control+c');
    const copied = await page.evaluate(() => navigator.clipboard.readText());
    return [copied.match(/<(?:path|circle|rect)/g)?.length ?? 0, /stroke="#/.test(copied)];
  };
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  const plane = page.getByLabel(/^Plane with/);
  await plane.focus();
  await command(page, 'pick all artboards');
  await command(page, 'strokes to outlines');
  await expect(page.getByText('No layer is selected').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  await page.getByRole('tab', { name: 'Layers' }).click();
  const layers = page.getByRole('treegrid', { name: 'Layers' }).getByRole('row');
  await layers.filter({ hasText: 'mark' }).first().click();
  await plane.focus();
  expect(await paint()).toEqual([3, true]);
  await command(page, 'strokes to outlines');
  await expect.poll(paint).toEqual([3, false]);
  await command(page, 'unite to one shape');
  await expect.poll(paint).toEqual([1, false]);
  await saved(page);
  await plane.focus();
  await page.keyboard.press('Control+z');
  await expect.poll(paint).toEqual([3, false]);
  await page.keyboard.press('Control+z');
  await plane.focus();
  await expect.poll(paint).toEqual([3, true]);
});
