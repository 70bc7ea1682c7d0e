/**
 * What the command line says. Names come from files of strangers: nothing in them reaches the terminal as an order to it
 * (ECMA-48), nor turns a line around. Whoever reads the output may go at any time; the work goes on without them.
 */
const NOT_FOR_TERMINALS = /[\p{Cc}\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/gu;

/** Letters that a terminal would act on as `\x1b` and the like. */
export const harmless = (text: string): string =>
  text.replace(NOT_FOR_TERMINALS, (letter) => {
    const code = letter.codePointAt(0) as number;
    return code < 0x100 ? `\\x${code.toString(16).padStart(2, '0')}` : `\\u${code.toString(16)}`;
  });

const put = (stream: NodeJS.WriteStream, text: string): void => {
  if (!stream.destroyed) stream.write(text);
};

/** One line of what was asked for; cells stand apart by tabs. */
export const out = (...cells: readonly (string | number)[]): void =>
  put(process.stdout, `${cells.map((cell) => harmless(String(cell))).join('\t')}\n`);
/** One line beside it: trouble, and how it ended. */
export const err = (words: string): void => put(process.stderr, `${harmless(words)}\n`);
/** Over the line before, where somebody looks on. */
export const over = (words: string): void => put(process.stderr, `\r${harmless(words)}`);

/** Lets readers go: what cannot be said any more is not said. Any other trouble of a stream is kept for the exit code. */
export function letReadersGo(onTrouble: () => void): void {
  for (const stream of [process.stdout, process.stderr])
    stream.on('error', ({ code }: NodeJS.ErrnoException) => {
      if (code !== 'EPIPE' && code !== 'EIO') onTrouble();
    });
}
