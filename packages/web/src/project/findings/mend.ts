/** Apart from the rest, so that the code of all checks comes when something is mended, and not before. */
export { mendFindings } from '@tolvik/core';
