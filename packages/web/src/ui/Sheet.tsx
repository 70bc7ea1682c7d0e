import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { closedByEscape } from './escape';

const FIELDS = 'input:not([type]), input[type="text"], input[type="search"], textarea, select';

/** A dialog with something to type in begins there; another one at its first control. */
function toFirstField(event: Event): void {
  const field = event.target instanceof HTMLElement && event.target.querySelector<HTMLElement>(FIELDS);
  if (!field) return;
  event.preventDefault();
  field.focus();
}

/** A dialog for what is rare or dangerous. */
export function Sheet({
  open,
  onClose,
  title,
  about,
  children,
  footer,
  wide,
  forReading,
}: {
  open: boolean;
  onClose(): void;
  title: string;
  about?: string;
  children?: ReactNode;
  footer?: ReactNode;
  wide?: boolean;
  /** It holds nothing but words: what scrolls has the focus itself. */
  forReading?: boolean;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={about ? undefined : ''}
          onKeyDown={closedByEscape(onClose)}
          onOpenAutoFocus={toFirstField}
          className={`fixed top-1/2 left-1/2 z-40 flex max-h-[86vh] -translate-x-1/2 -translate-y-1/2 flex-col border border-ink bg-paper shadow-[0_12px_40px_rgb(23_27_28/0.25)] outline-none ${wide ? 'w-[min(980px,94vw)]' : 'w-[min(520px,94vw)]'}`}
        >
          <div className="flex items-start justify-between gap-4 border-line border-b px-5 py-3.5">
            <div>
              <Dialog.Title className="font-bold text-[15px] tracking-[-0.01em]">{title}</Dialog.Title>
              {about && <Dialog.Description className="mt-0.5 text-ink-2 text-note">{about}</Dialog.Description>}
            </div>
            <Dialog.Close aria-label="Close" className="rounded-sm p-1 text-ink-2 hover:bg-rail">
              <X size={16} />
            </Dialog.Close>
          </div>
          {children && (
            <div
              className="min-h-0 flex-1 overflow-auto px-5 py-4 focus-visible:-outline-offset-2"
              {...(forReading && { tabIndex: 0, role: 'region', 'aria-label': title })}
            >
              {children}
            </div>
          )}
          {footer && <div className="flex items-center justify-end gap-2 border-line border-t px-5 py-3">{footer}</div>}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
