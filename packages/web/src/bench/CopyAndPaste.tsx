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

/** Pastes what was copied here to where it was; answers what there is to say. */
export const pasteWhereItWas = (session: Session): Promise<string> =>
  session.comesOf(async () => {
    const { hasHeld, pasteHeld } = await clipboard();
    if (!hasHeld(session)) return 'Nothing of this project was copied here yet.';
    return pasteHeld(session, { inPlace: true, middle: { x: 0, y: 0 } });
  });

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
    const said = (work: Promise<string | null>) =>
      void work
        .then((words) => words && tell(`${words}.`))
        .catch((error: Error) => tell(`The clipboard cannot be used: ${error.message}.`, { bad: true }));
    const taking = (event: ClipboardEvent, how: 'copySelected' | 'cutSelected') => {
      if (away(event) || session.selection.size === 0) return;
      event.preventDefault();
      said(
        session.comesOf(async () =>
          here ? here[how](session, event.clipboardData) : (await clipboard())[how](session),
        ),
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
      const where = { inPlace: false, middle: middle() };
      said(
        session.comesOf(async () => {
          const { isHeld, pasteHeld } = await clipboard();
          return isHeld(session, text) ? pasteHeld(session, where) : fromElsewhere(text, files, where.middle);
        }),
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
