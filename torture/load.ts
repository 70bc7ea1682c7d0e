import { acceptanceRecord, asEdit, type ProjectRecord } from '@tolvik/core';
import { svg } from './corpus';
import { percentile, startAll } from './server';

export type LoadResult = {
  clients: number;
  windows: number;
  deliveries: number;
  seconds: number;
  requests: number;
  failed: number;
  p50: number;
  p99: number;
  worst: number;
  events: number;
};

/** Clients that read and edit, windows that listen, and deliveries that are made, all at once on one server. */
export async function load({
  clients,
  windows,
  deliveries,
  seconds,
}: {
  clients: number;
  windows: number;
  deliveries: number;
  seconds: number;
}): Promise<LoadResult> {
  const all = await startAll();
  const ids: string[] = [];
  for (let i = 0; i < 5; i++) {
    const id = await all.project(`Load ${i}`);
    await all.bringIn(
      id,
      Object.fromEntries(
        Array.from({ length: 30 }, (_, n) => [
          `icon-${n}.svg`,
          svg(`<circle cx="12" cy="12" r="${n / 3 + i / 10 + 1}"/>`),
        ]),
      ),
    );
    ids.push(id);
  }
  let events = 0;
  const control = new AbortController();
  const listening = Array.from({ length: windows }, async (_, i) => {
    const response = await fetch(`${all.url}/api/projects/${ids[i % ids.length]}/events`, { signal: control.signal });
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) events += chunk.length > 0 ? 1 : 0;
  }).map((each) => each.catch(() => {}));
  const end = Date.now() + seconds * 1000;
  const times: number[] = [];
  let failed = 0;
  const client = async (i: number) => {
    const id = ids[i % ids.length];
    for (let n = 0; Date.now() < end; n++) {
      const ask = (i + n) % 6;
      const from = performance.now();
      const answer =
        ask === 0
          ? await all.call('GET', `/projects/${id}/records?since=0`)
          : ask === 1
            ? await all.call('GET', `/projects/${id}/made`)
            : ask === 2
              ? await all.call('GET', '/projects')
              : ask === 3
                ? await all.call('GET', `/projects/${id}/cover.png`)
                : ask === 4
                  ? await all.call('GET', '/health')
                  : await all.post(
                      `/projects/${id}/edits`,
                      asEdit(
                        {
                          label: 'note',
                          puts: [
                            acceptanceRecord.parse({
                              id: `client${i}`,
                              kind: 'acceptance',
                              check: 'x',
                              pieceId: 'x',
                              message: 'x',
                              reason: String(n),
                            }),
                          ],
                          removes: [],
                        },
                        all.json<{ version: number; records: ProjectRecord[] }>(
                          await all.call('GET', `/projects/${id}/records?since=999999`),
                        ).version,
                      ),
                    );
      times.push(performance.now() - from);
      if (answer.status !== 200) failed++;
      await new Promise((resolve) => setTimeout(resolve, 800 + ((i * 37 + n * 91) % 400)));
    }
  };
  const exporting = ids.slice(0, deliveries).map(async (id) => {
    while (Date.now() < end) {
      await all.post(`/projects/${id}/deliveries`);
      await new Promise((resolve) => setTimeout(resolve, 4000));
    }
  });
  await Promise.all([...Array.from({ length: clients }, (_, i) => client(i)), ...exporting]);
  control.abort();
  await Promise.all(listening);
  await all.close();
  return {
    clients,
    windows,
    deliveries,
    seconds,
    requests: times.length,
    failed,
    p50: percentile(times, 50),
    p99: percentile(times, 99),
    worst: Math.max(...times),
    events,
  };
}
