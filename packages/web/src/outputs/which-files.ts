import { create } from 'zustand';

/** Whether it is being asked which files the project makes, and the words that stand there first. */
export const useWhichFiles = create<{ open: boolean; words: string }>(() => ({ open: false, words: '' }));
export const askWhichFiles = () => useWhichFiles.setState({ open: true, words: '' });
/** Asks which files some pieces make, by their numbers. */
export const askWhichFilesOf = (numbers: readonly number[]) =>
  useWhichFiles.setState({ open: true, words: `${ranges(numbers)}: ` });
export const closeWhichFiles = () => useWhichFiles.setState({ open: false, words: '' });

/** Numbers as they are picked in lists: "1-3, 7". */
export function ranges(numbers: readonly number[]): string {
  const parts: { from: number; to: number }[] = [];
  for (const number of numbers.toSorted((a, b) => a - b)) {
    const last = parts.at(-1);
    if (last && number <= last.to + 1) last.to = number;
    else parts.push({ from: number, to: number });
  }
  return parts.map(({ from, to }) => (from === to ? String(from) : `${from}-${to}`)).join(', ');
}
