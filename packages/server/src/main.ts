import { fileURLToPath } from 'node:url';
import { readConfig } from './config';
import { startServer } from './server';

/** The server process: says where it listens, ends on SIGTERM or SIGINT, fails with one sentence. */
try {
  const config = readConfig({ TOLVIK_DIST: fileURLToPath(new URL('.', import.meta.url)), ...process.env });
  const running = await startServer(config, import.meta.url);
  process.send?.({ kind: 'listening', port: running.port });
  let closing = false;
  const stop = () => {
    if (closing) return;
    closing = true;
    setTimeout(() => process.exit(0), 5000).unref();
    void running.close().then(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop);
  // A fault nobody foresaw is said, and who keeps the server running starts it anew: going on with half a state is worse.
  process.on('unhandledRejection', (error) => {
    console.error(error);
    process.exit(1);
  });
} catch (error) {
  const { code, message } = error as NodeJS.ErrnoException;
  const words =
    code === 'EADDRINUSE'
      ? `Port ${process.env.PORT ?? 4870} is taken. Stop what uses it, or choose another with PORT=… npm start.`
      : code === 'EADDRNOTAVAIL'
        ? `This machine has no address ${process.env.TOLVIK_BIND}; set TOLVIK_BIND to one it has.`
        : message || String(code);
  console.error(words);
  process.exit(1);
}
