import { Worker } from 'node:worker_threads';
import { ownThreadId, WorkLimit, workedMs } from '../src';

describe('a limit on what something may work', () => {
  let worked: number | null;
  let limit: WorkLimit;
  beforeEach(() => {
    jest.useFakeTimers();
    worked = 5000;
    limit = new WorkLimit(1000, () => worked);
    limit.begin();
  });
  afterEach(() => jest.useRealTimers());
  const after = (ms: number, work: number | null) => {
    jest.advanceTimersByTime(ms);
    worked = work === null ? null : 5000 + work;
    return limit.left();
  };

  test('is not looked at before it could have passed', () => {
    expect(after(0, 0)).toBe(1000);
    expect(after(400, 400)).toBe(600);
  });
  test('counts what was worked, however long that took', () => {
    expect(after(1500, 300)).toBe(700);
    expect(after(1500, 999)).toBe(1);
    expect(after(1, 1000)).toBe(0);
  });
  test('ends what does not work at all, after six times as long', () => {
    expect(after(5999, 0)).toBe(1000);
    expect(after(1, 0)).toBe(0);
  });
  test('goes by the clock where the machine does not tell', () => {
    expect(after(999, null)).toBe(1);
    expect(after(1, null)).toBe(0);
  });
  test('does not count how long it stood in line for a processor', () => {
    let waited = 100;
    const inLine = new WorkLimit(
      1000,
      () => worked,
      () => waited,
    );
    inLine.begin();
    jest.advanceTimersByTime(20_000);
    waited = 100 + 15_000;
    expect(inLine.left()).toBe(1000);
    jest.advanceTimersByTime(1000);
    expect(inLine.left()).toBe(0);
  });
  test('begins anew', () => {
    after(900, 900);
    limit.begin();
    expect(after(1100, 1000)).toBe(900);
  });
});

test('the system tells what a process and what a thread of it has worked, each by itself', async () => {
  const busy = () => {
    const from = workedMs(process.pid) as number;
    while ((workedMs(process.pid) as number) < from + 60);
  };
  const idle = new Worker(
    "const { readlinkSync } = require('node:fs'); require('node:worker_threads').parentPort.postMessage(Number(readlinkSync('/proc/thread-self').split('/').pop())); setInterval(() => {}, 1000);",
    { eval: true },
  );
  const id = await new Promise<number>((resolve) => idle.once('message', resolve));
  const [mine, its] = [workedMs(ownThreadId() ?? undefined, true) as number, workedMs(id, true) as number];
  busy();
  expect((workedMs(ownThreadId() ?? undefined, true) as number) - mine).toBeGreaterThan(0);
  expect((workedMs(id, true) as number) - its).toBeLessThan(40);
  await idle.terminate();
  expect(workedMs(undefined)).toBeNull();
  expect(workedMs(2 ** 30)).toBeNull();
});
