declare module 'pathkit-wasm/bin/pathkit.js' {
  import type { PathKernel } from '@tolvik/core';

  const start: (options: { wasmBinary: Uint8Array }) => Promise<PathKernel>;
  export default start;
}
