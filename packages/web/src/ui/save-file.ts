/** Hands something over as a file of this name and media type. */
export function saveText(name: string, text: string, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 2000);
}

export const saveJson = (name: string, content: unknown): void =>
  saveText(name, `${JSON.stringify(content, null, 2)}\n`, 'application/json');

/** A name as a file may have it everywhere. */
export const fileName = (name: string, or: string): string => name.replace(/[^\p{L}\p{N} ._-]+/gu, '-') || or;
