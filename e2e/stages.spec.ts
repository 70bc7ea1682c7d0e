import { readFileSync } from 'node:fs';
import { dropFiles, expect, icon, pieceRow, pieceRows, saved, test } from './app';

const ICONS = {
  'anchor.svg': icon('<circle cx="12" cy="12" r="8"/>'),
  'boat.svg': icon('<path d="M3 3h18v9z"/>'),
  'crate.svg': icon(),
};

test.describe('Shelf', () => {
  test('rename, duplicate, delete and bring back', async ({ page, openProject }) => {
    await openProject('Harbour', ICONS);
    await page.goto('/');
    const card = page.getByRole('listitem').filter({ hasText: 'Harbour' }).first();
    await expect(card).toContainText('9 files');
    await page.getByRole('button', { name: 'More for Harbour', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Rename' }).click();
    await page.getByRole('textbox', { name: 'Name of the project' }).fill('Quay');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'More for Quay', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Duplicate' }).click();
    await expect(page.getByRole('link', { name: 'Quay copy' })).toBeVisible();
    await page.getByRole('button', { name: 'More for Quay', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Delete' }).click();
    await expect(page.getByRole('link', { name: 'Quay', exact: true })).toHaveCount(0);
    await page.getByRole('button', { name: 'Bring it back' }).click();
    await expect(page.getByRole('link', { name: 'Quay', exact: true })).toBeVisible();
  });

  test('many projects: the newest first, others as one comes to them, any of them found', async ({ page, app }) => {
    const ids: string[] = [];
    for (let i = 0; i < 150; i++) ids.push((await app.api<{ id: string }>('/projects', { name: `Quayside ${i}` })).id);
    await page.goto('/');
    const cards = page.getByRole('link', { name: /^Quayside \d+$/ });
    await expect(cards.first()).toHaveText('Quayside 149');
    expect(await cards.count()).toBeLessThan(150);
    // By the wheel to their end.
    await page.mouse.move(640, 500);
    await expect(async () => {
      await page.mouse.wheel(0, 3000);
      await expect(page.getByRole('link', { name: 'Quayside 0', exact: true })).toBeInViewport({ timeout: 200 });
    }).toPass();
    await expect(cards).toHaveCount(150);
    await page.reload();
    await page.getByRole('searchbox', { name: 'Find a project' }).fill('quayside 7');
    await expect(cards).toHaveCount(11);
    await expect(cards.last()).toHaveText('Quayside 7');
    for (const id of ids) await page.request.patch(`/api/projects/${id}`, { data: { deleted: true } });
  });

  test('a project file saved and opened again is the same project', async ({ page, openProject, app }, info) => {
    const id = await openProject('Saved', ICONS);
    await page.goto('/');
    await page.getByRole('button', { name: 'More for Saved', exact: true }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name: 'Save as a project file' }).click(),
    ]);
    const path = info.outputPath('saved.svg');
    await download.saveAs(path);
    expect(readFileSync(path, 'utf8')).toContain('<view id="anchor"');
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Open a project file…' }).click(),
    ]);
    await chooser.setFiles(path);
    await expect(pieceRows(page)).toHaveCount(3);
    expect(page.url()).not.toContain(id);
    const again = /projects\/([^/]+)/.exec(page.url())?.[1];
    const records = async (project: string | undefined) =>
      (await app.api<{ records: { id: string }[] }>(`/projects/${project}/records`)).records.sort((a, b) =>
        a.id < b.id ? -1 : 1,
      );
    expect(await records(again)).toEqual(await records(id));
  });

  test('find by name, and a cover that shows the pieces', async ({ page, openProject }) => {
    await openProject('Findable', ICONS);
    await page.goto('/');
    await page.getByRole('searchbox', { name: 'Find a project' }).fill('findab');
    await expect(page.getByRole('link', { name: 'Findable', exact: true })).toBeVisible();
    const cover = page.locator('img[src*="cover.png"]').first();
    expect(await cover.evaluate((image: HTMLImageElement) => image.decode().then(() => image.naturalWidth))).toBe(752);
    await page.getByRole('searchbox', { name: 'Find a project' }).fill('nothing like it');
    await expect(page.getByText('No project is called')).toBeVisible();
  });
});

test.describe('Proof by keyboard', () => {
  test('arrows, space, enter, escape', async ({ page, openProject }) => {
    await openProject('Keys', ICONS);
    await page.keyboard.press('Alt+2');
    await expect(page).toHaveURL(/proof$/);
    const grid = page.getByRole('grid', { name: 'Files' });
    await grid.focus();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowRight');
    await expect(page.getByRole('gridcell', { name: 'boat.png', exact: true })).toHaveAttribute(
      'aria-selected',
      'true',
    );
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Export 8 files' })).toBeVisible();
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Export 9 files' })).toBeVisible();
    await page.keyboard.press('Enter');
    const large = page.getByRole('region', { name: 'boat, boat.png' });
    await expect(large).toBeVisible();
    await expect(large).toContainText('24 × 24 px');
    await page.keyboard.press('ArrowRight');
    await expect(page.getByRole('region', { name: 'boat, boat@2x.png' })).toContainText('48 × 48 px');
    await page.keyboard.press('ArrowUp');
    await expect(page.getByRole('region', { name: 'anchor, anchor@2x.png' })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('region', { name: /anchor@2x/ })).toHaveCount(0);
  });

  test('what is picked on the Proof is picked on the Bench', async ({ page, openProject }) => {
    await openProject('One selection', ICONS);
    await page.getByRole('link', { name: /^Proof/ }).click();
    await page.getByRole('gridcell', { name: 'crate.svg' }).click();
    await page.keyboard.press('Alt+1');
    await expect(pieceRow(page, 'crate')).toHaveAttribute('aria-selected', 'true');
    await expect(page.getByRole('heading', { name: 'Becomes 3 files' })).toBeVisible();
  });

  test('one field finds by text and picks by number', async ({ page, openProject }) => {
    await openProject('Picking', ICONS);
    await page.getByRole('link', { name: /^Proof/ }).click();
    // The Bench has such a field, too.
    await expect(page.getByRole('grid', { name: 'Files' })).toBeVisible();
    const field = page.getByRole('searchbox', { name: /^Find pieces/ });
    await field.fill('2-3');
    await expect(page.getByRole('rowheader')).toHaveCount(2);
    await field.fill('anch');
    await expect(page.getByRole('rowheader')).toHaveCount(1);
    await field.fill('zebra');
    await expect(page.getByText('No piece matches.')).toBeVisible();
  });
});

test.describe('Names and specs', () => {
  test('a template changes every path at once; a word that is none is told', async ({ page, openProject }) => {
    await openProject('Naming', ICONS);
    await page.getByRole('link', { name: /^Proof/ }).click();
    await page.getByRole('button', { name: 'Names and folders…' }).click();
    const template = page.getByRole('textbox', { name: 'Template of file names' });
    await template.fill('{number}-{colour}');
    await expect(page.getByRole('alert')).toHaveText('there is no word {colour}');
    await template.fill('{number}-{piece}{suffix}');
    await page.keyboard.press('Enter');
    await page.getByRole('textbox', { name: 'Template of folders' }).fill('../{format}');
    await page.keyboard.press('Enter');
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('png/');
    await expect(dialog).toContainText('02-boat@2x.png');
    await expect(dialog).not.toContainText('..');
    await dialog.getByRole('button', { name: 'Done' }).click();
    await expect(page.getByRole('gridcell', { name: 'png/03-crate.png' })).toBeVisible();
  });

  test('a ready-made spec takes the place of the one nobody chose, or comes beside; one is swapped for another, and removed', async ({
    page,
    openProject,
  }) => {
    await openProject('Specs', ICONS);
    await page.getByRole('link', { name: /^Proof/ }).click();
    await page.getByRole('button', { name: 'Specs…' }).click();
    await page.getByRole('button', { name: /^Favicon sizes/ }).click();
    const dialog = page.getByRole('dialog');
    const done = async (files: number) => {
      await page.getByRole('button', { name: 'Done' }).click();
      await expect(page.getByRole('button', { name: `Export ${files} files` })).toBeVisible();
    };
    await expect(dialog).toContainText('6 outputs, followed by 3 of 3');
    await expect(dialog).not.toContainText('which the project began with');
    await done(18);
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('button', { name: 'Export 9 files' })).toBeVisible();
    await page.getByRole('button', { name: 'Specs…' }).click();
    await page.getByRole('checkbox', { name: 'In place of Web, which the project began with' }).click();
    await page.getByRole('button', { name: /^Favicon sizes/ }).click();
    await done(27);
    await page.getByRole('button', { name: 'Specs…' }).click();
    await dialog.getByRole('button', { name: 'Stop using for all' }).nth(1).click();
    await page
      .getByRole('combobox', { name: 'Another spec for those that follow Web' })
      .selectOption({ label: 'Favicon sizes' });
    await done(18);
    await page.getByRole('button', { name: 'Specs…' }).click();
    await dialog.getByRole('button', { name: 'Remove' }).nth(1).click();
    await dialog.getByRole('button', { name: 'Use for all' }).click();
    await done(9);
  });
});

test('an export is stopped and gone on with', async ({ page, app, openProject }) => {
  await openProject('Stopping', ICONS);
  await pieceRow(page, 'boat').click();
  // Nothing is drawn meanwhile, or it would depend on the machine whether there is time to stop.
  app.holdDrawing(true);
  await page.getByRole('textbox', { name: 'width' }).fill('30');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.getByRole('button', { name: 'Export 9 files' }).click();
  await page.getByRole('button', { name: 'Stop' }).first().click();
  const heading = page.getByRole('heading', { name: /^Delivery 1/ });
  await expect(heading).toHaveText(/was stopped/);
  app.holdDrawing(false);
  await page.getByRole('button', { name: 'Go on from here' }).click();
  await expect(heading).toHaveText('Delivery 1 is written and measured');
  await expect(page.getByText('9 of 9 files came out at the size that was asked.')).toBeVisible();
});

test('a month later one thing is changed, and exactly its files are new', async ({ page, openProject }) => {
  await openProject('Later', ICONS);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible();
  await page.getByRole('link', { name: /^Bench/ }).click();
  await pieceRow(page, 'boat').click();
  await page.getByRole('textbox', { name: 'width' }).fill('30');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.getByRole('button', { name: 'Export 9 files' }).click();
  await expect(page.getByRole('heading', { name: 'Delivery 2 is written and measured' })).toBeVisible();
  await expect(page.getByText('6 are byte for byte what No. 1 held.')).toBeVisible();
  await page.getByRole('button', { name: '3 changed' }).click();
  const rows = page.getByRole('table', { name: 'Files of the delivery' }).getByRole('row');
  await expect(rows).toHaveCount(3);
  for (const row of await rows.all()) await expect(row).toContainText('boat');
});

test('a delivery is given a title and a note, which stay with it', async ({ page, openProject }) => {
  await openProject('Said', { 'a.svg': icon() });
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /is written and measured/ })).toBeVisible();
  await page.getByRole('textbox', { name: 'Title of the delivery' }).fill('For the press');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Note of the delivery' }).fill('The blue one is new.\nSent to Mara.');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('link', { name: /No\. 1: For the press/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Title of the delivery' })).toHaveValue('For the press');
  await expect(page.getByRole('textbox', { name: 'Note of the delivery' })).toHaveValue(
    'The blue one is new.\nSent to Mara.',
  );
});

test('what is typed is kept where its field is never left: by a key to another stage, by closing the page', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Left in the middle', { 'a.svg': icon() });
  const name = page.getByRole('textbox', { name: 'Name', exact: true });
  const kept = async () =>
    (await app.api<{ records: { name: string }[] }>(`/projects/${id}/records`)).records.map((record) => record.name);
  await pieceRow(page, 'a').click();
  await name.fill('kept by a key');
  await page.keyboard.press('Alt+2');
  await expect.poll(kept).toContain('kept by a key');
  await page.keyboard.press('Alt+1');
  await name.fill('kept when closed');
  await page.reload();
  await expect.poll(kept).toContain('kept when closed');
  await expect(pieceRow(page, 'kept when closed')).toBeVisible();

  // In the middle of a word the key that exports ends the word, and nothing is exported before it is pressed again.
  await pieceRow(page, 'kept when closed').click();
  await name.fill('kept by the key that exports');
  await page.keyboard.press('Control+Enter');
  await expect.poll(kept).toContain('kept by the key that exports');
  const { deliveries } = await app.api<{ deliveries: unknown[] }>(`/projects/${id}/deliveries`);
  expect(deliveries).toEqual([]);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /is written and measured/ })).toBeVisible();
  const title = page.getByRole('textbox', { name: 'Title of the delivery' });
  await title.fill('Closed on it');
  await page.reload();
  await expect(title).toHaveValue('Closed on it');
});

test('a field that one only goes through changes nothing, and shows what comes from elsewhere', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Gone through', { 'a.svg': icon() });
  await pieceRow(page, 'a').click();
  const name = page.getByRole('textbox', { name: 'Name', exact: true });
  const across = page.getByRole('textbox', { name: 'x', exact: true });
  const change = (act: string, settings: unknown) => app.api(`/projects/${id}/acts/${act}`, { pieces: '1', settings });
  await name.focus();
  await change('rename', { rule: { kind: 'template', template: 'by another' } });
  await expect(name).toHaveValue('by another');
  await across.focus();
  await change('set-rect', { x: 12.3456789 });
  await expect(across).not.toHaveValue('0');
  await page.keyboard.press('Tab');
  await name.focus();
  await across.focus();
  await page.keyboard.press('Alt+2');
  await saved(page);
  const { records } = await app.api<{ records: { kind: string; name: string; x: number }[] }>(
    `/projects/${id}/records`,
  );
  expect(records.find(({ kind }) => kind === 'artboard')).toMatchObject({ name: 'by another', x: 12.3456789 });
});

test('many deliveries: the newest first, others as one comes to them, any of them by its address', async ({
  page,
  app,
  openProject,
}) => {
  const id = await openProject('Often', { 'anchor.svg': icon() });
  const begun: { id: string }[] = [];
  for (let i = 0; i < 150; i++) begun.push(await app.api<{ id: string }>(`/projects/${id}/deliveries`, {}));
  await page.goto(`/projects/${id}/deliveries`);
  const list = page.getByRole('complementary', { name: 'Source, receivers and deliveries' });
  const links = list.getByRole('link');
  await expect(links.first()).toContainText('No. 150');
  expect(await links.count()).toBeLessThan(150);
  await page.mouse.move(120, 600);
  await expect(async () => {
    await page.mouse.wheel(0, 3000);
    await expect(links.filter({ hasText: /^No\. 1\D/ })).toBeInViewport({ timeout: 200 });
  }).toPass();
  await expect(links).toHaveCount(150);
  // Whoever comes by an address sees where in the list it is.
  await page.goto(`/projects/${id}/deliveries/${begun[19].id}`);
  await expect(links.and(page.locator('[aria-current=page]'))).toContainText('No. 20');
  await expect(links.and(page.locator('[aria-current=page]'))).toBeInViewport();
});

test('any two deliveries are held against each other', async ({ page, openProject }) => {
  await openProject('Any two', { 'a.svg': icon(), 'b.svg': icon('<circle cx="12" cy="12" r="8"/>') });
  const written = (n: number) =>
    expect(page.getByRole('heading', { name: `Delivery ${n} is written and measured` })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await written(1);
  await page.keyboard.press('Alt+1');
  await pieceRow(page, 'b').click();
  await page.getByRole('textbox', { name: 'width', exact: true }).fill('30');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.keyboard.press('Control+Enter');
  await written(2);
  await page.keyboard.press('Alt+1');
  await page.keyboard.press('Control+z');
  await saved(page);
  await page.keyboard.press('Control+Enter');
  await written(3);
  await expect(page.getByRole('button', { name: '3 changed' })).toBeVisible();
  await page.getByRole('combobox', { name: 'Compared with' }).selectOption({ label: 'No. 1' });
  await expect(page.getByRole('button', { name: '6 the same' })).toBeVisible();
  await page.getByRole('combobox', { name: 'Compared with' }).selectOption({ label: 'No. 2' });
  await expect(page.getByRole('button', { name: '3 changed' })).toBeVisible();
});

test('panels are made wider by mouse and by keys, and stay so', async ({ page, openProject }) => {
  await openProject('Wide', { 'a.svg': icon() });
  const width = async () => (await page.getByRole('complementary', { name: 'Index' }).boundingBox())?.width ?? 0;
  const edge = page.getByRole('separator', { name: 'Width of the index' });
  const box = await edge.boundingBox();
  await page.mouse.move((box?.x ?? 0) + 3, 300);
  await page.mouse.down();
  await page.mouse.move(360, 300);
  await page.mouse.up();
  await expect.poll(width).toBeCloseTo(360, -1);
  await edge.focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(width).toBeCloseTo(376, -1);
  await page.reload();
  await expect.poll(width).toBeCloseTo(376, -1);
  await edge.dblclick();
  await expect.poll(width).toBeCloseTo(272, -1);
});

test('a small window has every tool in reach', async ({ page, openProject }) => {
  await page.setViewportSize({ width: 1024, height: 700 });
  await openProject('Small', { 'a.svg': icon() });
  const bar = await page.getByRole('toolbar', { name: 'Bench tools' }).boundingBox();
  for (const name of ['Select', 'Text', 'Whole sheet', 'Undo', 'Redo']) {
    const box = await page.getByRole('toolbar', { name: 'Bench tools' }).getByRole('button', { name }).boundingBox();
    expect((box?.x ?? 0) + (box?.width ?? Infinity)).toBeLessThanOrEqual((bar?.x ?? 0) + (bar?.width ?? 0));
  }
});

test('the database gone for a moment: told, and all goes on', async ({ page, app, openProject }) => {
  await openProject('Database', ICONS);
  await app.stopDatabase();
  await pieceRow(page, 'anchor').click();
  await page.getByRole('textbox', { name: 'height' }).fill('31');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Not saved yet: the database cannot be reached/)).toBeVisible();
  await app.startDatabase();
  await saved(page);
  await page.reload();
  await expect(pieceRow(page, 'anchor')).toContainText('24 × 31');
});

test('files dropped while in another stage arrive on the Bench, selected', async ({ page, openProject }) => {
  await openProject('Anywhere', ICONS);
  await page.getByRole('link', { name: /^Deliveries/ }).click();
  await expect(page.getByText('Nothing was exported yet.')).toBeVisible();
  await dropFiles(page, { 'late.svg': icon() }, 'main');
  await expect(page.getByText('1 file brought in.').first()).toBeVisible();
  await page.keyboard.press('Alt+1');
  await expect(pieceRow(page, 'late')).toHaveAttribute('aria-selected', 'true');
});

test('an export that ends while its files are being fetched is shown as it ended', async ({ page, openProject }) => {
  await openProject('Overtaken', { 'anchor.svg': icon(), 'boat.svg': icon() });
  let end = () => {};
  const ended = new Promise<void>((resolve) => {
    end = resolve;
  });
  let answered = () => {};
  const late = new Promise<void>((resolve) => {
    answered = resolve;
  });
  let first = true;
  await page.route(/\/api\/deliveries\/[\w-]+$/, async (route) => {
    if (!first) return route.continue();
    first = false;
    const response = await route.fetch();
    const before = await response.json();
    for (const file of before.files) file.now = { ...file.now, state: 'waiting', measured: null };
    await ended;
    // Given up, it is nobody's any more.
    await route.fulfill({ response, json: { ...before, state: 'running', made: 0 } }).catch(() => {});
    answered();
  });
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('link', { name: /^Deliveries last/ })).toBeVisible();
  end();
  await late;
  await expect(page.getByRole('heading', { name: 'Delivery 1 is written and measured' })).toBeVisible();
  await expect(page.getByText('6 of 6 files came out at the size that was asked')).toBeVisible();
  await expect(page.getByRole('cell', { name: 'waiting' })).toHaveCount(0);
});
