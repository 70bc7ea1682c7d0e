import { constants, setPriority } from 'node:os';
import { parentPort, workerData } from 'node:worker_threads';
import { Refusal } from '@tolvik/core';
import { ownThreadId, shippedFonts } from '@tolvik/render';
import { OpenProject } from './open-project';
import { carryOut, type FromThread, type ToThread, UP } from './project-work';

/** A thread that holds one project: whatever its drawing asks for is computed here, where nobody else waits. */

// On Linux a thread has a priority of its own; who answers requests comes first.
try {
  setPriority(0, constants.priority.PRIORITY_BELOW_NORMAL);
} catch {
  // Some machines do not let a process lower itself.
}

const project = new OpenProject(shippedFonts((workerData as { modulePath: string }).modulePath));

parentPort?.on('message', ({ id, name, ask }: ToThread) => {
  const answer = (rest: { answer: unknown } | { problem: Refusal['problem'] } | { error: string }) =>
    parentPort?.postMessage({ id, heapBytes: process.memoryUsage().heapUsed, ...rest } satisfies FromThread);
  try {
    answer({ answer: carryOut(project, name, ask as never) });
  } catch (error) {
    if (error instanceof Refusal) answer({ problem: error.problem });
    // The stack or the longest text there can be: only a drawing made for it gets there.
    else if (error instanceof RangeError)
      answer({
        problem: {
          code: 'project.heavy',
          message: 'this project nests or repeats more than can be worked out',
          accepted: 'a lighter drawing',
        },
      });
    else answer({ error: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
});

parentPort?.postMessage({
  id: UP,
  heapBytes: process.memoryUsage().heapUsed,
  answer: ownThreadId(),
} satisfies FromThread);
