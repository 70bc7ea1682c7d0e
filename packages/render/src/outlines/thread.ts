import { parentPort } from 'node:worker_threads';
import { NoOutline } from '@tolvik/core';
import { type Answer, type Asked, outlineHere } from './outliner';

const answerTo = (asked: Asked): Promise<Answer> =>
  outlineHere(asked).then(
    (d) => ({ d }),
    (error: Error) => ({ why: error.message, isFinal: error instanceof NoOutline && error.isFinal }),
  );

/** The thread that outlines are worked out in: one question, one answer. */
parentPort?.on('message', async (asked: Asked) => parentPort?.postMessage(await answerTo(asked)));
