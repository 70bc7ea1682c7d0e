import { fileURLToPath } from 'node:url';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwind()],
  worker: { format: 'es' },
  build: {
    outDir: fileURLToPath(new URL('../../dist/web', import.meta.url)),
    emptyOutDir: true,
    // By it the server knows what code a page will need.
    manifest: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1500,
    target: 'es2022',
  },
});
