import { newId, type ProjectDocument } from '@tolvik/core';
import { getState, keepLocal, type LocalReceiver, setState } from '../../project/receivers/local-receivers';
import { inWords } from './folder';

type Handle = FileSystemDirectoryHandle & {
  queryPermission?(how: { mode: 'readwrite' }): Promise<PermissionState>;
  requestPermission?(how: { mode: 'readwrite' }): Promise<PermissionState>;
};
/** The spec of an output as the project has it now. */
export type SpecOf = (outputId: string) => string | undefined;
export const specIn =
  (doc: ProjectDocument): SpecOf =>
  (outputId) =>
    doc.find('output', outputId)?.specId;
type Picker = { showDirectoryPicker?(how: { mode: 'readwrite'; id?: string }): Promise<FileSystemDirectoryHandle> };

/** Whether this browser lets a page write to a folder. */
export const canPickFolder = (): boolean => typeof (window as Picker).showDirectoryPicker === 'function';

/** Has somebody pick a folder; null when they did not. */
export async function pickReceiver(projectId: string): Promise<LocalReceiver | null> {
  let handle: FileSystemDirectoryHandle;
  try {
    handle = await (window as unknown as Required<Picker>).showDirectoryPicker({ mode: 'readwrite', id: 'tolvik' });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return null;
    throw inWords(error, 'that folder');
  }
  for (const each of getState().all ?? [])
    if (each.projectId === projectId && (await each.handle.isSameEntry(handle)))
      throw new Error(`${each.name} is that folder already`);
  const receiver: LocalReceiver = {
    id: newId(),
    projectId,
    name: handle.name,
    handle,
    on: true,
    removeLeftovers: false,
    replaceForeign: false,
    rules: null,
    standing: null,
    receipts: [],
  };
  await keepLocal(receiver);
  return receiver;
}

export const changeLocal = (receiver: LocalReceiver, fields: Partial<LocalReceiver>): Promise<void> =>
  keepLocal({ ...receiver, ...fields });

/** Whether it may be written to now; asked of somebody only right after they did something. */
export async function isAllowed({ handle }: LocalReceiver, ask = false): Promise<boolean> {
  const { queryPermission, requestPermission } = handle as Handle;
  const how = { mode: 'readwrite' } as const;
  if (!queryPermission) return true;
  if ((await queryPermission.call(handle, how)) === 'granted') return true;
  return ask && (await requestPermission?.call(handle, how)) === 'granted';
}

/** Says what is wrong with a writing, or that nothing is any more. */
export function sayTrouble(id: string, words: string | null): void {
  const { [id]: _before, ...others } = getState().trouble;
  setState({ trouble: words === null ? others : { ...others, [id]: words } });
}
