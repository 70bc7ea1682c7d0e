import { keepTyped } from '../ui/typed-early';

/** What was typed before the list of commands was here, and whether Enter was pressed after it. */
export type Early = { typed: string; entered: boolean };
export const NOTHING_TYPED: Early = { typed: '', entered: false };

/** Hands over what is typed behind an Enter that nothing has come of yet. */
let hand: (() => void) | undefined;

/** From here on what is typed is for what the command opens that Enter asked for. */
export function keepEarly(): void {
  hand ??= keepTyped();
}

/** Gives the keeping of what is typed to who opens something: what `keepEarly` began, or else from here on. */
export function takeEarly(): () => void {
  const taken = hand ?? keepTyped();
  hand = undefined;
  return taken;
}

/** Nothing opens: what is typed is as ever. */
export function handEarly(): void {
  hand?.();
  hand = undefined;
}
