import { folders } from '../folders';

test('whatever lies in a folder, or becomes of it while it is written to: nothing waits, nothing leaves, nothing of theirs goes', async () => {
  const { cases, bad } = await folders({ swaps: 200 });
  expect(bad).toEqual([]);
  expect(cases).toBeGreaterThan(150);
});
