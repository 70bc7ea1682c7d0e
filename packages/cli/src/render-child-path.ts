import { fileURLToPath } from 'node:url';

/** The program that draws, in processes of their own; it stands beside the command line. */
export const RENDER_CHILD = fileURLToPath(new URL('./render-child.mjs', import.meta.url));

/** Files that one process makes before another is started: coming up takes as long as many small files do. */
export const FEWEST = 8;
