import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

type Running = { ended: Promise<string> };
type Keep = (options: {
  name: string;
  start(): Promise<Running>;
  say(words: string): void;
  onGiveUp(words: string): void;
  mostInARow?: number;
  wait?(ms: number): Promise<void>;
}) => Promise<() => void>;
const load = async (): Promise<{ keepRunning: Keep; pauseAfter(failures: number): number }> =>
  import(pathToFileURL(join(__dirname, '../parts/supervise.mjs')).href);

test('what ends by itself is started again, with pauses that grow', async () => {
  const { keepRunning, pauseAfter } = await load();
  const pauses: number[] = [];
  const said: string[] = [];
  let starts = 0;
  const gaveUp = await new Promise<string>((resolve) => {
    void keepRunning({
      name: 'The server',
      mostInARow: 6,
      start: async () => {
        starts++;
        return { ended: Promise.resolve('SIGKILL') };
      },
      say: (words) => said.push(words),
      onGiveUp: resolve,
      wait: async (ms) => void pauses.push(ms),
    });
  });
  expect(starts).toBe(6);
  expect(pauses).toEqual([500, 1000, 2000, 4000, 8000]);
  expect(said[0]).toBe('The server ended (SIGKILL); it is started again in 0.5 s.');
  expect(gaveUp).toContain('6 times in a row');
  expect(pauseAfter(20)).toBe(30_000);
});

test('what could not be started again is tried again; what is stopped is not', async () => {
  const { keepRunning } = await load();
  let starts = 0;
  let end: (why: string) => void = () => {};
  const stop = await keepRunning({
    name: 'The database',
    start: async () => {
      starts++;
      if (starts === 2) throw new Error('not yet');
      return { ended: new Promise((resolve) => (end = resolve)) };
    },
    say: () => {},
    onGiveUp: () => {},
    wait: async () => {},
  });
  end('gone');
  while (starts < 3) await new Promise((resolve) => setTimeout(resolve, 5));
  stop();
  end('gone');
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(starts).toBe(3);
});

test('the first start that fails is told to who started it', async () => {
  const { keepRunning } = await load();
  await expect(
    keepRunning({
      name: 'The server',
      start: () => Promise.reject(new Error('Port 4870 is taken.')),
      say: () => {},
      onGiveUp: () => {},
    }),
  ).rejects.toThrow('taken');
});
