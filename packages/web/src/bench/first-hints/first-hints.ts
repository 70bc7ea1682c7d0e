import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** What a hand cannot guess, told where it matters. */
export const FIRST_HINTS = {
  inside: 'Double-click goes into it; Escape comes out again.',
  more: 'Hold Shift and click to add to what is selected.',
  pan: 'Hold Space and drag to move the view.',
} as const;
export type FirstHint = keyof typeof FIRST_HINTS;

type State = {
  /** Hints that were shown, or whose way was found without them. */
  known: readonly FirstHint[];
  shown: FirstHint | null;
};

/** Each hint is shown once in a browser, one at a time. */
export const useFirstHints = create<State>()(
  persist((): State => ({ known: [], shown: null }), {
    name: 'tolvik first hints',
    partialize: ({ known }) => ({ known }),
  }),
);

/** It would help now. */
export function mention(hint: FirstHint): void {
  const { known, shown } = useFirstHints.getState();
  if (shown === null && !known.includes(hint)) useFirstHints.setState({ known: [...known, hint], shown: hint });
}

/** It was done: it need not be told any more. */
export function learned(hint: FirstHint): void {
  const { known, shown } = useFirstHints.getState();
  if (!known.includes(hint) || shown === hint)
    useFirstHints.setState({
      known: known.includes(hint) ? known : [...known, hint],
      shown: shown === hint ? null : shown,
    });
}

export function dismissHint(): void {
  useFirstHints.setState({ shown: null });
}
