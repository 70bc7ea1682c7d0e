import { check } from './accessibility';
import { expect, icon, pieceRows, test } from './app';

// An accessibility checker reads every node of a screen several times over; many screens take their time.
test.slow();

test('an accessibility checker finds nothing on any stage', async ({ page, openProject }) => {
  const id = await openProject('Accessible', { 'anchor.svg': icon(), 'boat.svg': icon() });
  await expect(pieceRows(page)).toHaveCount(2);
  await pieceRows(page).first().click();
  await check(page);
  await page.getByRole('button', { name: 'Cut into tiles…' }).click();
  await check(page);
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
  await check(page);
  await page.getByRole('link', { name: /^Proof/ }).click();
  await expect(page.getByRole('gridcell').first()).toBeVisible();
  await check(page);
  await page.getByRole('button', { name: 'Change output PNG 1×' }).click();
  await check(page);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Names and folders…' }).click();
  await check(page);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Specs…' }).click();
  await check(page);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Export/ }).click();
  await expect(page.getByRole('heading', { name: /is written and measured/ })).toBeVisible();
  await check(page);
  await page.goto('/');
  await expect(page.getByText('Accessible')).toBeVisible();
  await check(page);
  expect(id).toMatch(/^[a-z]/);
});

test('nor in what opens on top of them: commands, paint, wireframe, Compare, findings', async ({
  page,
  openProject,
}) => {
  await openProject('Opened', {
    'card.svg': icon(
      '<rect id="block" x="4" y="4" width="8" height="8" fill="#fff"/><text id="word" x="3" y="20" font-size="6" font-family="Inter">Ahoy</text>',
    ),
  });
  await pieceRows(page).first().click();
  await page.getByLabel(/^Plane with/).focus();
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('dialog')).toBeVisible();
  await check(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await check(page);
  await page.keyboard.press('Escape');
  await page.getByLabel(/^Plane with/).focus();
  for (const key of ['w', 'r', 'p']) await page.keyboard.press(key);
  await check(page);
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('searchbox', { name: 'Find layers by name' }).fill('word');
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
  await expect(page.getByRole('heading', { name: 'Layer' })).toBeVisible();
  await check(page);
  await page.getByRole('button', { name: /^Fill/ }).first().click();
  await check(page);
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: /^Proof/ }).click();
  await page.getByRole('radio', { name: /^Needs a look/ }).click();
  await expect(page.getByRole('list', { name: 'What was found' })).toBeVisible();
  await check(page);
  await page.getByRole('grid', { name: 'Files' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('group', { name: /^Files compared/ })).toBeVisible();
  await page.keyboard.press('b');
  await check(page);
});

test('nor in what makes many from one: variants, lockups, editions, following', async ({ page, openProject }) => {
  await openProject('Many', {
    'emblem.svg': icon('<circle cx="12" cy="12" r="9" fill="#0c6a53"/>'),
    'wordmark.svg': icon(
      '<g id="season"><rect id="summer" width="80" height="12"/><rect id="winter" width="80" height="12" display="none"/></g>',
      'width="80" height="12" viewBox="0 0 80 12"',
    ),
  });
  await pieceRows(page).first().click();
  await page.getByRole('button', { name: 'Variants…' }).click();
  await expect(page.getByRole('dialog').getByRole('img', { name: 'emblem, Reversed' })).toBeVisible();
  await check(page);
  await page.getByRole('button', { name: 'Make 3 variants' }).click();
  await check(page);
  await pieceRows(page).filter({ hasText: 'emblem-reversed' }).click();
  await expect(page.getByRole('region', { name: 'What it follows' })).toBeVisible();
  await check(page);
  await pieceRows(page).filter({ hasText: 'wordmark' }).click();
  await page.getByRole('button', { name: 'Editions…' }).click();
  await check(page);
  await page.getByRole('radio', { name: 'All combinations' }).click();
  await check(page);
  await page.getByRole('button', { name: 'Make 2 editions' }).click();
  await pieceRows(page).filter({ hasText: 'winter' }).click();
  await check(page);
  // One of its layers, with what the edition holds of it.
  await page.getByRole('tab', { name: 'Layers' }).click();
  await page.getByRole('searchbox', { name: 'Find layers by name' }).fill('winter');
  await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
  await expect(page.getByLabel('Selection').getByRole('button', { name: 'Take back' })).toBeVisible();
  await check(page);
  await page.getByRole('tab', { name: 'Pieces' }).click();
  await pieceRows(page).filter({ hasText: 'emblem' }).first().click();
  await pieceRows(page)
    .filter({ hasText: 'wordmark' })
    .first()
    .click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Lockups…' }).click();
  await expect(page.getByRole('dialog').getByRole('img', { name: 'Stacked' })).toBeVisible();
  await check(page);
});
