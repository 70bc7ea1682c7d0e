import { Suspense } from 'react';
import { Arriving } from '../ui/Arriving';
import { part } from '../ui/part';
import { useMenu } from './menu';

// It comes when it is first asked for.
const Menu = part(async () => (await import('./Menu')).Menu);

/** The one place where menus open. */
export function MenuHost() {
  const asked = useMenu((state) => state.shown !== null);
  return <Suspense fallback={<Arriving />}>{asked && <Menu />}</Suspense>;
}
