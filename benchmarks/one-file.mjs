import { readFileSync, writeFileSync } from 'node:fs';
import { KINDS } from './bare.mjs';

const [, , source, kind, out] = process.argv;
writeFileSync(out, await KINDS[kind](readFileSync(source, 'utf8')));
