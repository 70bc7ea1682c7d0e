import {
  type Artboard,
  asEdit,
  choicesOn,
  combinations,
  editionRecord,
  type Layer,
  makeEditions,
  namingOf,
  newId,
  ordersAfter,
  type ProjectRecord,
} from '@tolvik/core';
import { documentOf, median } from './core-work';
import { inBrowser } from './in-browser';
import type { startServerProcess } from './server-process';

type Server = Awaited<ReturnType<typeof startServerProcess>>;
type PlannedFile = { pieceId: string; outputId: string; format: string; widthPx: number; key: string };

/** What many pieces are made from in these measures: three groups whose layers take turns. */
const CARD = `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="120" viewBox="0 0 240 120"><rect id="ground" width="240" height="120" fill="#dfe8e2"/>${[
  4, 5, 10,
]
  .map(
    (count, group) =>
      `<g id="group${group}">${Array.from({ length: count }, (_, i) => `<circle id="g${group}-${i}" cx="${40 + group * 70}" cy="60" r="${8 + i * 3}" fill="#0c6a${(10 + i * 7).toString(16).padStart(2, '0')}"${i > 0 ? ' display="none"' : ''}/>`).join('')}</g>`,
  )
  .join('')}</svg>`;

/** 200 editions made of all combinations of three groups, in memory; ms. */
export function combinationsMade(): { ms: number; count: number } {
  const doc = documentOf([{ name: 'card.svg', text: CARD }]);
  const [base] = doc.list('artboard');
  const from = performance.now();
  const choices = choicesOn(doc, base);
  const puts = makeEditions(doc, base, combinations(doc, base, choices, namingOf(choices)));
  doc.apply({ puts, removes: [] });
  return { ms: performance.now() - from, count: doc.list('edition').length };
}

/** Pictures that one screen of the Proof shows. */
const CELLS_IN_VIEW = 40;

/**
 * A source is changed that many pieces show; seconds from the edit until the files that one sees are made anew, and how
 * many of the next delivery's files were rendered.
 */
async function changedOnce(
  server: Server,
  id: string,
  layerId: string,
): Promise<{ seconds: number; rendered: number; total: number }> {
  await server.deliver(id);
  const { version, records } = await server.api<{ version: number; records: ProjectRecord[] }>(
    `/projects/${id}/records`,
  );
  const layer = records.find((record): record is Layer => record.id === layerId) as Layer;
  const from = performance.now();
  await server.api(
    `/projects/${id}/edits`,
    asEdit({ label: 'redraw', puts: [{ ...layer, opacity: 0.9 }], removes: [] }, version),
  );
  const { files } = await server.api<{ files: PlannedFile[] }>(`/projects/${id}/plan`);
  const seen = files.filter((file) => file.format === 'png' && file.widthPx === 64).slice(0, CELLS_IN_VIEW);
  await Promise.all(
    seen.map(async ({ pieceId, outputId, key }) =>
      (await fetch(`${server.url}/api/projects/${id}/files/${pieceId}/${outputId}?key=${key}`)).arrayBuffer(),
    ),
  );
  const seconds = (performance.now() - from) / 1000;
  await server.deliver(id);
  const { deliveries } = await server.api<{ deliveries: { id: string; total: number }[] }>(
    `/projects/${id}/deliveries`,
  );
  const [last] = deliveries;
  const { files: rows } = await server.api<{ files: { change: string }[] }>(`/deliveries/${last.id}`);
  return { seconds, rendered: rows.filter((row) => row.change !== 'same').length, total: last.total };
}

/** A source with 40 variants beside 100 other icons. */
export async function followersChanged(
  server: Server,
  sources: readonly { name: string; text: string }[],
): Promise<{ seconds: number; rendered: number; total: number; bench: { frames: number; ms: number } }> {
  const id = await server.projectOf(sources.slice(0, 100));
  const { version, records } = await server.api<{ version: number; records: ProjectRecord[] }>(
    `/projects/${id}/records`,
  );
  const boards = records
    .filter((record): record is Artboard => record.kind === 'artboard')
    .sort((a, b) => (a.order < b.order ? -1 : 1));
  const [source] = boards;
  const orders = ordersAfter(boards.at(-1)?.order ?? null, 40);
  const followers = orders.map(
    (order, i): Artboard => ({
      ...source,
      id: newId(),
      order,
      name: `follower ${i}`,
      x: source.x + (i % 10) * 40,
      y: source.y - 200 - Math.floor(i / 10) * 40,
      follows: { artboardId: source.id, rule: { kind: 'tint', colour: '#0c6a53' } },
    }),
  );
  await server.api(`/projects/${id}/edits`, asEdit({ label: 'follow', puts: followers, removes: [] }, version));
  const layer = records
    .filter((record): record is Layer => record.kind === 'layer')
    .find((record) => record.parentId === 'root' && record.name === source.name) as Layer;
  return { ...(await changedOnce(server, id, layer.id)), bench: await benchFollows(server.url, id, source.name) };
}

/** A base with 200 editions. */
export async function editionsChanged(server: Server): Promise<{ seconds: number; rendered: number; total: number }> {
  const id = await server.projectOf([{ name: 'card.svg', text: CARD }]);
  const { version, records } = await server.api<{ version: number; records: ProjectRecord[] }>(
    `/projects/${id}/records`,
  );
  const base = records.find((record): record is Artboard => record.kind === 'artboard') as Artboard;
  const circles = records.filter((record): record is Layer => record.kind === 'layer' && record.tag === 'circle');
  const orders = ordersAfter(null, 200);
  const editions = orders.map((order, i) =>
    editionRecord.parse({
      id: newId(),
      kind: 'edition',
      artboardId: base.id,
      order,
      name: `edition ${i}`,
      specIds: base.specIds,
      overrides: {
        [circles[i % circles.length].id]: { shown: true, offset: { x: (i % 7) - 3, y: Math.floor(i / 7) / 4 } },
      },
    }),
  );
  await server.api(
    `/projects/${id}/edits`,
    asEdit({ label: 'editions', puts: [...editions, { ...base, on: false }], removes: [] }, version),
  );
  const ground = records.find((record): record is Layer => record.kind === 'layer' && record.tag === 'rect') as Layer;
  return changedOnce(server, id, ground.id);
}

/** On the Bench a source is nudged by a key: in which frame after that all followers in view are right and stay so, and when, in ms; medians of some nudges. */
const benchFollows = (url: string, id: string, name: string): Promise<{ frames: number; ms: number }> =>
  inBrowser(url, async (page) => {
    await page.goto(`${url}/projects/${id}/bench`);
    await page.waitForTimeout(2500);
    await page.getByRole('searchbox', { name: /^Find pieces/ }).fill('follower');
    await page.keyboard.press('Enter');
    await page.locator('canvas[tabindex]').focus();
    await page.keyboard.press('.');
    await page.getByRole('tab', { name: 'Layers' }).click();
    await page.getByRole('searchbox', { name: 'Find layers by name' }).fill(name);
    await page.getByRole('treegrid', { name: 'Layers' }).getByRole('row').first().click();
    await page.locator('canvas[tabindex]').focus();
    // Down, so that the followers fill the upper half and the source with its frame is below.
    await page.mouse.move(640, 400);
    await page.mouse.wheel(0, -260);
    await page.waitForTimeout(1500);
    const seen = (await page.evaluate(`(async () => {
      const canvas = document.querySelector('canvas[tabindex]');
      const context = canvas.getContext('2d');
      const look = () => context.getImageData(canvas.width / 2, 20, canvas.width / 2, canvas.height * 0.4);
      // How far two pictures are apart in that block of 16 × 16 px where they are furthest: the mean of its channels, 0 to 255.
      const apart = (one, other) => {
        const { width, height } = one;
        let worst = 0;
        for (let y0 = 0; y0 < height; y0 += 16) {
          for (let x0 = 0; x0 < width; x0 += 16) {
            let sum = 0;
            let count = 0;
            for (let y = y0; y < Math.min(height, y0 + 16); y++) {
              for (let i = 4 * (y * width + x0); i < 4 * (y * width + Math.min(width, x0 + 16)); i++, count++) sum += Math.abs(one.data[i] - other.data[i]);
            }
            worst = Math.max(worst, sum / count);
          }
        }
        return worst;
      };
      const nudge = () => new Promise((resolve) => {
        const before = look();
        const frames = [];
        const from = performance.now();
        canvas.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', code: 'ArrowRight', bubbles: true, cancelable: true }));
        const step = () => {
          const ms = performance.now() - from;
          if (ms < 600) {
            if (frames.length < 20) frames.push({ ms, picture: look() });
            return requestAnimationFrame(step);
          }
          const end = look();
          const wrong = frames.findLastIndex(({ picture }) => apart(picture, end) > ${SAME});
          resolve({ frames: wrong + 2, ms: frames[wrong + 1].ms, moved: apart(before, end) });
        };
        requestAnimationFrame(step);
      });
      const seen = [];
      for (let i = 0; i < 11; i++) seen.push(await nudge());
      return seen;
    })()`)) as { frames: number; ms: number; moved: number }[];
    if (seen.some(({ moved }) => moved < 3 * SAME)) throw new Error('the followers did not move');
    return { frames: median(seen.map(({ frames }) => frames)), ms: median(seen.map(({ ms }) => ms)) };
  });

/** Pictures that differ by less are the same drawing, once by the page and once by the rasteriser; what moved by 1 px differs by four times as much. */
const SAME = 5;
