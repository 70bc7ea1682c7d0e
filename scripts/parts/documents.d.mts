export function intoDocument(path: string, part: string, text: string): void;
