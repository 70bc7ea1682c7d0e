/** npm run backup -- FILE: everything the database holds, in one file; whole or not there. The server may go on meanwhile. */
import { onDatabase } from './parts/backup.mjs';

await onDatabase('backup');
