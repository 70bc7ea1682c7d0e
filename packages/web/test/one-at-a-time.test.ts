import { OneAtATime } from '../src/project/session/one-at-a-time';

test('whoever asks, at whatever moment, waits for work that began after asking', async () => {
  let began = 0;
  let ended = 0;
  let atOnce = 0;
  let most = 0;
  const turns = (count: number) =>
    Array.from({ length: count }).reduce<Promise<void>>((p) => p.then(), Promise.resolve());
  const line = new OneAtATime(async () => {
    began++;
    most = Math.max(most, ++atOnce);
    await turns(began % 5);
    atOnce--;
    ended++;
  });
  // Asked 0 to 40 turns of the queue after another: also in the turns in which a run comes to its end.
  for (let after = 0; after < 40; after++) {
    const before = began;
    const first = line.ask();
    const second = turns(after).then(async () => {
      const known = began;
      await line.ask();
      expect(ended).toBeGreaterThan(known);
    });
    await Promise.all([first, second]);
    expect(began).toBeGreaterThan(before + 1);
    expect(line.isBusy).toBe(false);
  }
  expect(most).toBe(1);
});

test('work that fails is told to those who asked, and can be asked for again', async () => {
  let fails = true;
  const line = new OneAtATime(() => (fails ? Promise.reject(new Error('away')) : Promise.resolve()));
  await expect(line.ask()).rejects.toThrow('away');
  fails = false;
  await expect(line.ask()).resolves.toBeUndefined();
});
