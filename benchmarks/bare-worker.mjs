import { parentPort, workerData } from 'node:worker_threads';
import { KINDS } from './bare.mjs';

parentPort.postMessage('ready');
parentPort.once('message', async () => {
  let bytes = 0;
  for (const { text } of workerData) for (const make of Object.values(KINDS)) bytes += (await make(text)).length;
  parentPort.postMessage(bytes);
});
