import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect } from './app';

/** Has the accessibility checker look at the page as it is; it finds nothing. */
export async function check(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations.map(
      (violation) => `${violation.id}: ${violation.nodes.map((node) => node.html.slice(0, 120)).join(' | ')}`,
    ),
  ).toEqual([]);
}
