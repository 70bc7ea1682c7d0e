import type { ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { type RenderError, RenderPool } from '../src';
import { job } from './files';

const childPath = join(__dirname, '../../../dist/render-child.mjs');

/** A filter that keeps the rasteriser busy for far longer than any test waits. */
const ENDLESS = `<filter id="f" x="-1000%" y="-1000%" width="2100%" height="2100%">${'<feTurbulence baseFrequency="0.9" numOctaves="400" result="a"/><feMorphology operator="dilate" radius="200" in="a"/>'.repeat(20)}</filter><rect width="24" height="24" filter="url(#f)"/>`;

describe('the pool', () => {
  let pool: RenderPool;
  afterEach(() => pool.close());

  test('makes many files at once, each its own', async () => {
    pool = new RenderPool({ childPath, size: 2 });
    const sides = Array.from({ length: 40 }, (_, i) => 8 + i);
    const made = await Promise.all(sides.map((side) => pool.render(job('png', side))));
    expect(made.map(({ measured }) => measured.widthPx)).toEqual(sides);
  });

  test.each([
    [8, 1],
    [9, 2],
    [30, 2],
  ])('%i files, where one process has at least 8 before another is started: %i are', async (files, started) => {
    pool = new RenderPool({ childPath, size: 2, fewest: 8 });
    const made = Array.from({ length: files }, (_, i) => pool.render(job('png', 8 + i)));
    expect(processes()).toHaveLength(started);
    expect((await Promise.all(made)).map(({ measured }) => measured.widthPx)).toEqual(made.map((_, i) => 8 + i));
  });

  test('a file that takes too long is ended and told; the others come out', async () => {
    pool = new RenderPool({ childPath, size: 1, timeoutMs: 1500, memoryMb: 20_000 });
    const bad = pool.render(job('png', 2000, ENDLESS)).catch((error: RenderError) => error);
    const good = await Promise.all([24, 25, 26, 27].map((side) => pool.render(job('png', side))));
    expect(await bad).toMatchObject({ code: 'timeout', message: expect.stringContaining('1.5 s') });
    expect(good.map(({ measured }) => measured.widthPx)).toEqual([24, 25, 26, 27]);
  });

  /** What the pool has of its processes. */
  const processes = () => (pool as unknown as { workers: { child: ChildProcess; startedAt: number | null }[] }).workers;
  /** A file that takes a moment, held up once it is under way. */
  async function heldUp(side: number, drawing?: string): Promise<{ made: Promise<unknown>; child: ChildProcess }> {
    await pool.render(job('png', 24));
    const [worker] = processes();
    const made = pool.render(job('png', side, drawing)).catch((error: RenderError) => error);
    while (worker.startedAt === null) await new Promise((resolve) => setTimeout(resolve));
    worker.child.kill('SIGSTOP');
    return { made, child: worker.child };
  }

  test('a machine that is busy with other things makes no file too heavy: what it works counts, not how long it waits', async () => {
    pool = new RenderPool({ childPath, size: 1, timeoutMs: 1500, memoryMb: 20_000 });
    const { made, child } = await heldUp(700);
    await new Promise((resolve) => setTimeout(resolve, 2500));
    child.kill('SIGCONT');
    expect(await made).toMatchObject({ measured: { widthPx: 700 } });
  });

  test('a process that does not work at all is ended in the end', async () => {
    pool = new RenderPool({ childPath, size: 1, timeoutMs: 300, memoryMb: 20_000 });
    const { made } = await heldUp(2000, ENDLESS);
    expect(await made).toMatchObject({ code: 'timeout' });
    await expect(pool.render(job('png', 24))).resolves.toBeDefined();
  });

  test('a file that takes too much memory is ended and told', async () => {
    pool = new RenderPool({ childPath, size: 1, memoryMb: 150 });
    const error = await pool.render(job('png', 9000, ENDLESS)).catch((each: RenderError) => each);
    expect(error).toMatchObject({ code: 'memory' });
    await expect(pool.render(job('png', 24))).resolves.toBeDefined();
  });

  test('a process that dies takes only its file along', async () => {
    pool = new RenderPool({ childPath, size: 1 });
    await pool.render(job('png', 24));
    const pending = pool.render(job('png', 3000, ENDLESS)).catch((error: RenderError) => error);
    const after = pool.render(job('png', 30));
    let ended = false;
    void pending.then(() => (ended = true));
    while (!ended) {
      await new Promise((resolve) => setTimeout(resolve, 400));
      if (!ended)
        for (const { child } of (pool as unknown as { workers: { child: { kill(signal: string): void } }[] }).workers)
          child.kill('SIGKILL');
    }
    expect(await pending).toMatchObject({ code: 'crashed' });
    expect((await after).measured.widthPx).toBe(30);
  });

  test('somebody waiting goes before what is made ahead of need', async () => {
    pool = new RenderPool({ childPath, size: 1 });
    const order: string[] = [];
    const low = Array.from({ length: 30 }, (_, i) =>
      pool.render(job('png', 300 + i), 'low').then(() => order.push('low')),
    );
    const high = pool.render(job('png', 24), 'high').then(() => order.push('high'));
    await Promise.all([...low, high]);
    expect(order.indexOf('high')).toBeLessThan(5);
  });

  test('nothing is made ahead of need for who needs the machine; what is asked for is, and all of it for others', async () => {
    pool = new RenderPool({ childPath, size: 1 });
    pool.holdAhead('busy', 600_000);
    let ahead = 0;
    const held = [1, 2].map((i) => pool.render(job('png', 300 + i), 'low', undefined, 'busy').then(() => ahead++));
    await pool.render(job('png', 24), 'low', undefined, 'other');
    await pool.render(job('png', 25), 'high', undefined, 'busy');
    await pool.render(job('png', 26), 'normal', undefined, 'busy');
    expect(ahead).toBe(0);
    pool.holdAhead('busy', 1);
    await Promise.all(held);
    expect(ahead).toBe(2);
  });

  test.each([1, 2])('nobody waits behind the slow files of somebody else, with %i processes', async (size) => {
    pool = new RenderPool({ childPath, size, timeoutMs: 120_000, memoryMb: 20_000 });
    const slow = Array.from({ length: 2 * size }, () =>
      pool.render(job('png', 3000, ENDLESS), 'normal', undefined, 'slow').catch((error: RenderError) => error.code),
    );
    let ended = 0;
    for (const each of slow) void each.then(() => ended++);
    const others = await Promise.all(
      [24, 25, 26].map((side) => pool.render(job('png', side), 'normal', undefined, 'other')),
    );
    expect(others.map(({ measured }) => measured.widthPx)).toEqual([24, 25, 26]);
    expect(ended).toBe(0);
    await pool.close();
    expect(await Promise.all(slow)).toEqual(slow.map(() => 'stopped'));
  });

  test('closing ends what waits', async () => {
    pool = new RenderPool({ childPath, size: 1 });
    const waiting = Array.from({ length: 10 }, () =>
      pool.render(job('png', 500)).catch((error: RenderError) => error.code),
    );
    await pool.close();
    expect(await Promise.all(waiting)).toContain('stopped');
    await expect(pool.render(job('png', 24))).rejects.toThrow('stopped');
  });
});
