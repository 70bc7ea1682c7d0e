import type { ZodError } from 'zod';
import { inputWords } from './input-words';

/**
 * Errors as data: a code for programs, a sentence for people, where it is, and what would be accepted.
 * Thrown as `Refusal` at the doors; inside core, functions return `Problem[]` where the rest can go on.
 */
export type Problem = {
  code: string;
  message: string;
  /** The file, path or field the trouble is in. */
  where?: string;
  line?: number;
  column?: number;
  /** What would be accepted instead. */
  accepted?: string;
};

export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message);
    this.name = 'Refusal';
  }
}

export const refuse = (code: string, message: string, rest: Omit<Problem, 'code' | 'message'> = {}): never => {
  throw new Refusal({ code, message, ...rest });
};

/** The first thing that is off with what came in, as a problem that says where. */
export function inputProblem(error: ZodError): Problem {
  const [issue] = error.issues;
  const where = issue.path.map(String).join('.').slice(0, 200);
  const accepted = inputWords(issue);
  return { code: 'input', message: `${where || 'the request'}: ${accepted}`, where, accepted };
}
