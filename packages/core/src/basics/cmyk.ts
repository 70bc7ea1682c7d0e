/** Four shares of ink, cyan, magenta, yellow and black, in percent. */
export type Cmyk = [number, number, number, number];

/** "80 20 60 10", "C80 M20 Y60 K10", "80%, 20%, 60%, 10%": percent of each ink; null for what is none. */
export function readCmyk(text: string): Cmyk | null {
  if (/[^\d.\s,;/%cmykCMYK]/.test(text)) return null;
  const numbers = (text.match(/\d+(?:\.\d+)?/g) ?? []).map(Number);
  return numbers.length === 4 && numbers.every((each) => each <= 100) ? (numbers as Cmyk) : null;
}

export const printCmyk = (cmyk: Cmyk): string => cmyk.map((each) => +each.toFixed(1)).join(' ');
