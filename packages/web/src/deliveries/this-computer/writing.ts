import { later } from '../../ui/part';

/** The code that looks at a folder and writes to it comes when it is first needed: it brings the patterns of rules along. */
export const writing = later(() => import('./write-local'));
