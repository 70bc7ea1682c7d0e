import { PNG } from 'pngjs';
import { expect, icon, pieceRow, pieceRows, saved, test } from './app';
import { delivered } from './hand';

/** A disc with a letter on it, a stroke that joins both, and a line that fades. */
const EMBLEM = icon(
  '<circle cx="12" cy="12" r="10" fill="#0c6a53"/><path d="M9 6h6v9H9z" fill="#e8d5a9"/><path d="M4 18q8-5 16 0" fill="none" stroke="#12343b" stroke-width="1.5" stroke-linecap="round"/><path d="M6 8l4 4" stroke="#12343b" stroke-opacity="0.6"/>',
);

test('a logo in one ink and reversed: one path to cut, no ground but where one is asked for, and what is lost is told', async ({
  page,
  openProject,
}) => {
  await openProject('To the cutter', { 'emblem.svg': EMBLEM });
  await pieceRow(page, 'emblem').click();
  await page.getByRole('button', { name: 'Variants…' }).click();
  await page.getByRole('button', { name: 'Make 3 variants' }).click();
  await expect(pieceRows(page)).toHaveCount(4);
  await saved(page);
  await page.getByRole('link', { name: /^Proof/ }).click();
  await page.getByRole('button', { name: '+ Output' }).click();
  await page.getByRole('textbox', { name: 'Which files?' }).fill('svg, pdf, png 96, jpeg 96, png 48 on ground');
  await page.keyboard.press('Shift+Enter');
  await page.getByRole('button', { name: /^Export 20 files/ }).click();
  const files = await delivered(page);
  const text = (path: string) => files.get(path)?.toString('latin1') ?? '';

  for (const name of ['emblem-mono-dark', 'emblem-mono-light']) {
    const tags = text(`${name}.svg`).match(/<[a-z]+/gi);
    expect([name, tags]).toEqual([name, ['<svg', '<path']]);
    expect(text(`${name}.svg`)).not.toMatch(/stroke|mask|clip|opacity|<rect/);
    expect(text(`${name}.pdf`)).not.toMatch(/SMask|\/Group|ExtGState/);
  }
  const corner = (path: string) => [...PNG.sync.read(files.get(path) as Buffer).data.subarray(0, 4)];
  for (const name of ['emblem-reversed', 'emblem-mono-light']) {
    expect(text(`${name}.svg`)).not.toMatch(/<rect|M0 0h24v24/);
    expect(corner(`${name}-96.png`)[3]).toBe(0);
    expect(corner(`${name}-48.png`)[3]).toBe(255);
  }
  // What is white is told from its ground also in the list of what was delivered.
  const behind = (name: string) =>
    page
      .getByRole('button', { name: `Look at ${name}` })
      .locator('span')
      .first();
  await expect(behind('emblem-mono-light.svg')).toHaveCSS('background-image', /rgb\(123, 129, 128\)/);
  await expect(behind('emblem-mono-dark.svg')).toHaveCSS('background-image', /rgb\(255, 255, 255\)/);
  // What is painted with ink becomes white, and the ground is looked at on.
  expect(text('emblem-reversed.svg')).toMatch(/#fff/);

  // The Bench says what one ink makes of what is half transparent.
  await page.getByRole('link', { name: /^Bench/ }).click();
  await pieceRow(page, 'emblem-mono-dark').click();
  await expect(page.getByText('in one ink 1 half transparent part becomes solid').first()).toBeVisible();

  // The ground goes into files when it is asked for.
  await pieceRow(page, 'emblem-reversed').click();
  const also = page.getByRole('checkbox', { name: 'Files have it, too' });
  await expect(also).not.toBeChecked();
  await also.click();
  await saved(page);
  await page.getByRole('button', { name: /^Export 20 files/ }).click();
  await expect(page.getByRole('heading', { name: 'Delivery 2 is written and measured' })).toBeVisible();
  const again = await delivered(page);
  expect(PNG.sync.read(again.get('emblem-reversed-96.png') as Buffer).data[3]).toBe(255);
});
