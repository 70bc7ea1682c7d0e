export const root: string;
export function freePort(): Promise<number>;
/** The browser that tests, measurements and screenshots drive, as a path. */
export function browserPath(): string;
