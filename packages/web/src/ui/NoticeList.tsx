import { X } from 'lucide-react';
import { Toast } from 'radix-ui';

export type Notice = { id: number; words: string; bad: boolean; action?: { title: string; run(): void } };

/** What went wrong and can be mended only here waits for an answer; other words go by themselves. */
const lastsMs = (bad: boolean, asks: boolean): number => (asks ? (bad ? Infinity : 12_000) : 7000);

/** Short sentences at the foot of the window, with at most one thing to do about them. */
export function NoticeList({ list, onClose }: { list: readonly Notice[]; onClose(id: number): void }) {
  return (
    <Toast.Provider swipeDirection="down" label="Notices" duration={7000}>
      {list.map(({ id, words, bad, action }) => (
        <Toast.Root
          key={id}
          duration={lastsMs(bad, !!action)}
          onOpenChange={(open) => !open && onClose(id)}
          className={`flex items-center gap-3 rounded-md border bg-ink px-3 py-2 text-white ${bad ? 'border-bad' : 'border-ink'}`}
        >
          {bad && <span className="rounded-sm bg-bad px-1.5 font-bold">!</span>}
          <Toast.Description className="max-w-[60ch]">{words}</Toast.Description>
          {action && (
            <Toast.Action altText={action.title} asChild>
              <button
                type="button"
                className="rounded-sm px-1.5 font-semibold text-[#9fe0cb] underline"
                onClick={action.run}
              >
                {action.title}
              </button>
            </Toast.Action>
          )}
          <Toast.Close aria-label="Close notice" className="text-white/70 hover:text-white">
            <X size={14} />
          </Toast.Close>
        </Toast.Root>
      ))}
      {/* The newest stands above the others, so that none moves away under the pointer. */}
      <Toast.Viewport className="fixed bottom-4 left-1/2 z-50 flex -translate-x-1/2 flex-col-reverse gap-2 outline-none" />
    </Toast.Provider>
  );
}
