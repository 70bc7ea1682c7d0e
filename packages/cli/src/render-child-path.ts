import { fileURLToPath } from 'node:url';

/** The program that draws, in processes of their own; it stands beside the command line. */
export const RENDER_CHILD = fileURLToPath(new URL('./render-child.mjs', import.meta.url));
