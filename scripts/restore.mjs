/** npm run restore -- FILE [--replace]: a backup into an empty database; with --replace in place of what is there. */
import { onDatabase } from './parts/backup.mjs';

await onDatabase('restore');
