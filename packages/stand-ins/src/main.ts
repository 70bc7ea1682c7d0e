import { KINDS, type StandInKind, startStandIn } from './index';

/** npm run stand-ins: starts each of them, and says how the server may send to them. Ports may be said, with commas between. */
const ports = process.env.TOLVIK_STAND_IN_PORTS?.split(',').map(Number);
const started = await Promise.all(
  Object.values(KINDS).map(async (kind: StandInKind, i) => ({
    kind,
    at: await startStandIn(kind, ports?.[i] ?? kind.port),
  })),
);
process.send?.(started.map(({ at }) => at.address));
for (const { kind, at } of started) {
  process.stdout.write(`${kind.name}: ${at.address}\n`);
  if (kind.key) process.stdout.write(`  asks for the header Authorization: Bearer ${kind.key}\n`);
}
process.stdout.write(
  `\nSo that Tolvik may send to them, start it with\n  TOLVIK_INTAKES="${started.map(({ at }) => at.address).join(';')}" npm start\n`,
);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => void Promise.all(started.map(({ at }) => at.close())).then(() => process.exit(0)));
