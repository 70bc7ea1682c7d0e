import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import type { Locator, Page } from '@playwright/test';
import { expect, pieceRow } from './app';

/** Somebody at work who counts: a click, a drag, a typed field, a key, a drop is one action. */
export class Hand {
  actions = 0;
  constructor(private readonly page: Page) {}

  async click(what: Locator, how?: Parameters<Locator['click']>[0]): Promise<void> {
    this.actions++;
    await what.click(how);
  }
  async type(what: Locator, text: string): Promise<void> {
    this.actions++;
    await what.fill(text);
  }
  async press(keys: string): Promise<void> {
    this.actions++;
    await this.page.keyboard.press(keys);
  }
  /** Files onto the shelf: a project of their own, on its Bench. */
  async drop(files: Record<string, string>): Promise<void> {
    this.actions++;
    await this.page
      .locator('input[type=file][multiple]')
      .setInputFiles(
        Object.entries(files).map(([name, text]) => ({ name, mimeType: 'image/svg+xml', buffer: Buffer.from(text) })),
      );
    await expect(this.page.getByRole('link', { name: /^Bench/ })).toBeVisible();
    await expect(pieceRow(this.page, Object.keys(files)[0].replace('.svg', ''))).toBeVisible();
  }
}

/** The files of the delivery that was just written, by path. */
export async function delivered(page: Page): Promise<Map<string, Buffer>> {
  await expect(page.getByRole('heading', { name: /is written and measured/ })).toBeVisible();
  const id = page.url().split('/').at(-1);
  const zip = await (await page.request.get(`/api/deliveries/${id}/archive.zip`)).body();
  const folder = mkdtempSync(join(tmpdir(), 'tolvik-jobs-'));
  const files = new Map<string, Buffer>();
  try {
    writeFileSync(join(folder, 'a.zip'), zip);
    execFileSync('unzip', ['-q', 'a.zip', '-d', 'out'], { cwd: folder });
    const out = join(folder, 'out');
    for (const entry of readdirSync(out, { recursive: true, withFileTypes: true })) {
      const path = join(entry.parentPath, entry.name);
      if (entry.isFile()) files.set(relative(out, path), readFileSync(path));
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return files;
}
