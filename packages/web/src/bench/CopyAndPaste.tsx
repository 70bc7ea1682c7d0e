import { type RefObject, useLayoutEffect, useRef } from 'react';
import { isTyping } from '../commands/typing';
import { useBringIn } from '../project/bring-in/bring-in';
import { useOpenSession } from '../project/session/context';
import type { Session } from '../project/session/session';
import { useNotice } from '../ui/notices';
import { later } from '../ui/part';
import type { Plane } from './plane/plane';

type Clipboard = typeof import('./clipboard');

/** What does it, once it is here: a copy is written while its event lasts, and what is pasted before waits. */
let here: Clipboard | undefined;
const clipboard = later(async () => (here = await import('./clipboard')));

/** Tells what came of work with the clipboard, also where it could not be done. */
const said = (work: Promise<string | null>, tell: ReturnType<typeof useNotice>) =>
  void work
    .then((words) => words && tell(`${words}.`))
    .catch((error: Error) => tell(`The clipboard cannot be used: ${error.message}.`, { bad: true }));

/** Pastes what was copied in this window to the place that it was copied from. */
export const pasteWhereItWas = (session: Session, tell: ReturnType<typeof useNotice>): void =>
  said(
    session.comesOf(async () => (await clipboard()).pasteWhereItWas(session)),
    tell,
  );

/** Copy, cut and paste by the system's clipboard: what was copied here comes back as it was, SVG text and pictures from elsewhere are brought in. */
export function CopyAndPaste({ plane }: { plane: RefObject<Plane | null> }) {
  const session = useOpenSession();
  const tell = useNotice();
  const { bringIn } = useBringIn();
  const bring = useRef(bringIn);
  bring.current = bringIn;
  useLayoutEffect(() => {
    const middle = () => plane.current?.middle() ?? { x: 0, y: 0 };
    const away = (event: Event) =>
      isTyping(event.target) || !!document.querySelector('[role="dialog"]') || !!window.getSelection()?.toString();
    const taking = (event: ClipboardEvent, how: 'copySelected' | 'cutSelected') => {
      if (away(event) || session.selection.size === 0) return;
      event.preventDefault();
      said(
        session.comesOf(async () =>
          here ? here[how](session, event.clipboardData) : (await clipboard())[how](session),
        ),
        tell,
      );
    };
    const copy = (event: ClipboardEvent) => taking(event, 'copySelected');
    const cut = (event: ClipboardEvent) => taking(event, 'cutSelected');
    const fromElsewhere = (text: string, files: readonly File[], at: { x: number; y: number }) => {
      if (files.length > 0) void bring.current(files, { as: 'artwork', at });
      else if (/^\s*(<\?xml|<!--|<!DOCTYPE|<svg)/i.test(text))
        void bring.current([new File([text], 'pasted.svg', { type: 'image/svg+xml' })], { as: 'artwork', at });
      else
        tell(text ? 'The clipboard holds text, but no SVG.' : 'The clipboard holds nothing that can be pasted here.', {
          bad: true,
        });
      return null;
    };
    const paste = (event: ClipboardEvent) => {
      if (isTyping(event.target) || document.querySelector('[role="dialog"]')) return;
      event.preventDefault();
      const text = event.clipboardData?.getData('text/plain') ?? '';
      const files = [...(event.clipboardData?.files ?? [])];
      const at = middle();
      said(
        session.comesOf(async () => {
          const { isHeld, pasteHeld } = await clipboard();
          return isHeld(session, text) ? pasteHeld(session, at) : fromElsewhere(text, files, at);
        }),
        tell,
      );
    };
    window.addEventListener('copy', copy);
    window.addEventListener('cut', cut);
    window.addEventListener('paste', paste);
    return () => {
      window.removeEventListener('copy', copy);
      window.removeEventListener('cut', cut);
      window.removeEventListener('paste', paste);
    };
  }, [session, tell, plane]);
  return null;
}
