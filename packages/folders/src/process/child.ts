import { constants, setPriority } from 'node:os';
import { Refusal, takenOf } from '@tolvik/core';
import { whereaboutsOf } from '../below';
import { type Asks, bringTo, lookInto } from '../look-and-bring';
import { readDrawings } from '../read-drawings';
import type { Answered, FromFolderProcess, Question, ToFolderProcess } from './messages';

/**
 * A folder process: works on one folder at a time for a server, so that a disk that does not answer, or a file of a
 * stranger that takes long to read, holds up nobody else, and can be ended.
 */

// Requests of people have priority over folders.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

/** Interval of progress messages, in ms. */
const ALIVE_MS = 500;

const send = (message: FromFolderProcess) => process.send?.(message);

const waiting = new Map<number, (answer: Answered) => void>();
let asked = 0;
let until = 0;

type Unnumbered<T> = T extends { n: number } ? Omit<T, 'n'> : never;
/** Asks the server and waits for its answer; it ends this process where there is none to give. */
async function ask(question: Unnumbered<Question>): Promise<Answered> {
  const n = ++asked;
  const answer = await new Promise<Answered>((resolve) => {
    waiting.set(n, resolve);
    send({ ...question, n } as Question);
  });
  until = answer.until;
  return answer;
}

let saidAt = 0;
/** Told by every operation that came to its end. */
function alive(done?: number, of?: number): void {
  if (Date.now() - saidAt < ALIVE_MS && done !== 0) return;
  saidAt = Date.now();
  send({ alive: true, done, of });
}

const asks: Asks = {
  bytesOf: async (file) => (await ask({ ask: 'bytes', file })).bytes as Uint8Array,
  note: async (sha256) => void (await ask({ ask: 'note', sha256 })),
  // Whose right to write may have gone meanwhile asks for it, also after the machine stood still.
  mayPut: async () => {
    if (Date.now() >= until) await ask({ ask: 'may' });
  },
  alive,
  onWrite: alive,
};

async function work(message: Exclude<ToFolderProcess, Answered>): Promise<unknown> {
  switch (message.kind) {
    case 'look':
      return lookInto(message.asked, alive);
    case 'bring':
      return bringTo(message.asked.taken, message.asked.allowed, asks);
    case 'drawings':
      return readDrawings(message.asked);
    case 'where':
      return whereaboutsOf(message.asked);
    case 'take': {
      const { whole, by, facts, specs } = message.asked;
      return takenOf(
        whole,
        by,
        (path) => facts.get(path),
        (outputId) => specs.get(outputId),
      );
    }
  }
}

process.on('message', async (message: ToFolderProcess) => {
  if ('n' in message) {
    waiting.get(message.n)?.(message);
    waiting.delete(message.n);
    return;
  }
  until = message.until;
  try {
    send({ ended: await work(message) });
  } catch (error) {
    if (error instanceof Refusal) send({ failed: { problem: error.problem } });
    else send({ failed: { message: (error as Error).message, code: (error as NodeJS.ErrnoException).code } });
  }
});
process.on('disconnect', () => process.exit(0));
// The parent decides when to stop; a Ctrl+C in the terminal reaches it too.
process.on('SIGINT', () => {});
// It is up; how long that took says nothing of a disk.
send({ alive: true });
