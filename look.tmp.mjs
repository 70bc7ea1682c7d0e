import { chromium } from '@playwright/test'; import { fork } from 'node:child_process'; import { mkdtempSync, mkdirSync } from 'node:fs'; import { tmpdir } from 'node:os'; import { join } from 'node:path';
import { startPostgres } from './scripts/parts/postgres.mjs'; import { freePort } from './scripts/parts/machine.mjs';
const folder = mkdtempSync(join(tmpdir(), 'tolvik-look-')); const hand=join(tmpdir(),'handover'); mkdirSync(hand,{recursive:true});
const postgres = await startPostgres({ folder, port: await freePort(), durable: false }); const port = await freePort();
const server = fork('dist/server.mjs', [], { env: { ...process.env, PORT: String(port), DATABASE_URL: postgres.url, TOLVIK_LOG: 'error', TOLVIK_FOLDERS: hand } });
await new Promise(r => server.once('message', r)); const url = `http://127.0.0.1:${port}`;
const { seedIfEmpty } = await import('./dist/demo.mjs'); await seedIfEmpty(url);
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const { default: steps } = await import(process.argv[2]);
try { await steps(page, url); } catch (e) { console.log(e); await page.screenshot({path:'/tmp/shot-error.png'}); }
await browser.close(); server.kill(); await postgres.stop?.(); process.exit(0);
