import { folders } from '../folders';

/** Every third case of those of `npm run torture`. */
test('whatever lies in a folder, or becomes of it while it is written to: nothing waits, nothing leaves, nothing of theirs goes', async () => {
  const { cases, bad } = await folders({ swaps: 80, every: 3 });
  expect(bad).toEqual([]);
  expect(cases).toBeGreaterThan(50);
});
