/** A process of its own that asks small things all the time, and tells how long each took. Told: the server and a project. */
const [url, projectId] = process.argv.slice(2);
const EVERY_MS = 50;
const times = [];
const slow = [];
let failed = 0;
const asks = [
  () => fetch(`${url}/api/health`),
  () => fetch(`${url}/api/projects`),
  () => fetch(`${url}/api/projects/${projectId}/records?since=0`),
  () => fetch(`${url}/api/projects/${projectId}/made`),
  async () => {
    const { version } = await (await fetch(`${url}/api/projects/${projectId}/records?since=1`)).json();
    const id = `p${Date.now().toString(36)}${Math.floor(Math.random() * 1e6).toString(36)}`;
    const put = { id: 'probe', kind: 'acceptance', check: 'x', pieceId: 'x', message: 'x', reason: id };
    return fetch(`${url}/api/projects/${projectId}/edits`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id, baseVersion: version, label: 'probe', puts: [put], removes: [] }),
    });
  },
];
let stopped = false;
process.on('message', (word) => {
  if (word === 'stop') {
    stopped = true;
    process.send({ times, failed, slow });
    process.exit(0);
  }
});
for (let i = 0; !stopped; i++) {
  const from = performance.now();
  try {
    const response = await asks[i % asks.length]();
    await response.arrayBuffer();
    if (!response.ok && response.status !== 409) failed++;
  } catch {
    failed++;
  }
  const ms = performance.now() - from;
  times.push(ms);
  if (ms > 200) slow.push({ at: Date.now(), ms: Math.round(ms), ask: i % asks.length });
  await new Promise((resolve) => setTimeout(resolve, EVERY_MS));
}
