/** What a new project is called: after the file or the folder that came in, or the first of several files. */
export function nameOfNew(files: readonly Pick<File, 'name' | 'webkitRelativePath'>[]): string {
  if (files.length === 0) return 'New project';
  const folders = new Set(files.map(({ webkitRelativePath }) => (webkitRelativePath ?? '').split('/').slice(0, -1)[0]));
  const [folder] = folders;
  if (folders.size === 1 && folder) return folder;
  const first = files[0].name.replace(/\.[^.]+$/, '').slice(0, 200) || files[0].name;
  return files.length === 1 ? first : `${first} and ${files.length - 1} more`;
}
