import { createContext, type ReactNode, Suspense, useCallback, useContext, useEffect, useState } from 'react';
import type { Notice } from './NoticeList';
import { part } from './part';

type Tell = (words: string, options?: { bad?: boolean; action?: { title: string; run(): void } }) => void;

const NoticeList = part(async () => (await import('./NoticeList')).NoticeList);

const NoticeContext = createContext<Tell>(() => {});
export const useNotice = (): Tell => useContext(NoticeContext);

/** Has what is told shown at the foot of the window. */
export function Notices({ children }: { children: ReactNode }) {
  const [list, setList] = useState<Notice[]>([]);
  const [isUsed, setUsed] = useState(false);
  const tell = useCallback<Tell>((words, { bad = false, action } = {}) => {
    setUsed(true);
    setList((before) => [...before.slice(-2), { id: Date.now() + Math.random(), words, bad, action }]);
  }, []);
  const close = useCallback((id: number) => setList((before) => before.filter((notice) => notice.id !== id)), []);
  // Nothing waits for it, and it is here before the server may be away, which is what it tells.
  useEffect(() => void NoticeList.fetch(), []);
  return (
    <NoticeContext.Provider value={tell}>
      {children}
      <Suspense fallback={null}>{isUsed && <NoticeList list={list} onClose={close} />}</Suspense>
    </NoticeContext.Provider>
  );
}
