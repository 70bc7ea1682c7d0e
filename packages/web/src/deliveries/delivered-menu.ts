import type { DeliveryDetail } from '../api/types';
import type { MenuGroups } from '../commands/menu';

type File = DeliveryDetail['files'][number];

/** What can be done with a delivered file. */
export function menuOf({ now, before, path }: File, deliveryId: string, onOpen: () => void): MenuGroups {
  const save = (id: string, position: number) => {
    const link = document.createElement('a');
    link.href = `/api/deliveries/${id}/files/${position}`;
    link.download = path.split('/').at(-1) ?? '';
    link.click();
  };
  const made = now?.state === 'made' ? now : undefined;
  return [
    [
      { id: 'look', title: 'Look at it large', run: onOpen },
      {
        id: 'save',
        title: 'Save this file',
        unless: !made && 'It is not made',
        run: () => made && save(deliveryId, made.position),
      },
      {
        id: 'save-before',
        title: 'Save the file of before',
        unless: !before && 'There was none',
        run: () => before && save(before.delivery.id, before.position),
      },
      { id: 'copy-path', title: 'Copy its path', run: () => void navigator.clipboard.writeText(path) },
    ],
  ];
}
