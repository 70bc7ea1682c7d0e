import type { KeyboardEvent } from 'react';

/**
 * For the contents of a dialog: Escape closes it also while a notice is up. Notices stand above dialogs and have the key
 * first; what is meant is the dialog.
 */
export const closedByEscape =
  (onClose: () => void) =>
  (event: KeyboardEvent): void => {
    if (event.key === 'Escape' && !event.defaultPrevented) onClose();
  };
