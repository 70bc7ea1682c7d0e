export const root: string;
export function freePort(): Promise<number>;
