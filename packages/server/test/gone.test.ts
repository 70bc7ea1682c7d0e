import { once } from 'node:events';
import { createServer, request, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { PassThrough } from 'node:stream';
import { streamArchive } from '../src/deliveries/archive';
import { whenGone } from '../src/http/gone';

/** One request to a server of its own; answers its response on the server's side, and how to leave. */
async function asked(): Promise<{ res: ServerResponse; leave(): Promise<void>; close(): void }> {
  const server = createServer();
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const client = request({ port: (server.address() as AddressInfo).port });
  client.on('error', () => {});
  client.end();
  const [, res] = (await once(server, 'request')) as [unknown, ServerResponse];
  const leave = async () => {
    const left = once(res, 'close');
    client.destroy();
    await left;
  };
  return { res, leave, close: () => void server.close() };
}

test('who leaves while an answer is under way is told of', async () => {
  const { res, leave, close } = await asked();
  let gone = 0;
  whenGone(res, () => gone++);
  expect(gone).toBe(0);
  await leave();
  expect(gone).toBe(1);
  close();
});

test('who left before it was asked is told of, too', async () => {
  const { res, leave, close } = await asked();
  await leave();
  let gone = 0;
  whenGone(res, () => gone++);
  expect(gone).toBe(1);
  close();
});

test('an answer that came to its end is an end', async () => {
  const { res, close } = await asked();
  const ended = once(res, 'close');
  res.end('all of it');
  await ended;
  let gone = 0;
  whenGone(res, () => gone++);
  expect(gone).toBe(1);
  close();
});

test('a zip for somebody who is gone already comes to its end', async () => {
  const out = new PassThrough();
  out.destroy();
  await once(out, 'close');
  await streamArchive(null as never, [], async () => undefined, out, { path: 'a.txt', text: 'a'.repeat(100_000) });
  expect(out.destroyed).toBe(true);
});
