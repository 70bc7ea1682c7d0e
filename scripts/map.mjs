/** npm run map: draws docs/map.svg, the rooms of the house and who imports whom, from the sources themselves. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { importMap, ranks, roomMap } from './parts/import-map.mjs';
import { root } from './parts/machine.mjs';

const [BOX, GAP, ROW, PAD, HEAD] = [118, 14, 62, 22, 40];
const PACKAGES = [['web'], ['server', 'cli', 'stand-ins'], ['render', 'intake', 'folders'], ['core']];
const INK = '#171b1c';

const rooms = roomMap(importMap(root));

/** One package: its rooms in rows, those that import others above those that are imported. */
function drawPackage(name, top) {
  const own = new Map([...rooms].filter(([room]) => room.startsWith(`${name}/`)));
  const edges = new Map(
    [...own].map(([room, to]) => [room, new Map([...to].filter(([other]) => other.startsWith(`${name}/`)))]),
  );
  const rank = ranks(edges);
  const rows = [];
  for (const room of [...own.keys()].sort()) (rows[rank.get(room)] ??= []).push(room);
  rows.reverse();
  const width = Math.max(...rows.map((row) => row.length)) * (BOX + GAP) - GAP + PAD * 2;
  const places = new Map();
  rows.forEach((row, y) => {
    const from = (width - (row.length * (BOX + GAP) - GAP)) / 2;
    row.forEach((room, x) => {
      places.set(room, { x: from + x * (BOX + GAP), y: top + HEAD + y * ROW });
    });
  });
  const height = HEAD + rows.length * ROW - (ROW - 30) + PAD;
  return { name, width, height, places, edges };
}

let top = PAD;
const bands = PACKAGES.map((row) => {
  const drawn = row.map((name) => drawPackage(name, top));
  top += Math.max(...drawn.map(({ height }) => height)) + PAD;
  return drawn;
});
const width = Math.max(...bands.map((row) => row.reduce((sum, { width: own }) => sum + own + PAD, 0))) + PAD;

let lines = '';
let boxes = '';
for (const row of bands) {
  let left = (width - row.reduce((sum, { width: own }) => sum + own, 0) - PAD * (row.length - 1)) / 2;
  for (const { name, width: own, height, places, edges } of row) {
    const [first] = places.values();
    const y = first.y - HEAD;
    boxes += `<rect x="${left}" y="${y}" width="${own}" height="${height}" rx="6" fill="#f4f2ec" stroke="#d8d4c8"/><text x="${left + 14}" y="${y + 24}" font-weight="700" font-size="14">${name}</text>`;
    for (const [from, to] of edges) {
      const a = places.get(from);
      for (const other of to.keys()) {
        const b = places.get(other);
        const [x1, y1, x2, y2] = [left + a.x + BOX / 2, a.y + 30, left + b.x + BOX / 2, b.y];
        const half = (y1 + y2) / 2;
        lines += `<path d="M${x1} ${y1}C${x1} ${half} ${x2} ${half} ${x2} ${y2}"/>`;
      }
    }
    for (const [room, place] of places) {
      const label = room.slice(name.length + 1);
      boxes += `<rect x="${left + place.x}" y="${place.y}" width="${BOX}" height="30" rx="3" fill="#fff" stroke="#8b9290"/><text x="${left + place.x + BOX / 2}" y="${place.y + 19.5}" text-anchor="middle">${label}</text>`;
    }
    left += own + PAD;
  }
}
const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${top}" font-family="'Schibsted Grotesk', sans-serif" font-size="11.5" fill="${INK}"><rect width="${width}" height="${top}" fill="#fff"/>${boxes.replace(/<rect[^>]*fill="#fff"[\s\S]*?<\/text>/g, '')}<g fill="none" stroke="#0c6a53" stroke-opacity=".28">${lines}</g>${[...boxes.matchAll(/<rect[^>]*fill="#fff"[\s\S]*?<\/text>/g)].join('')}</svg>\n`;
writeFileSync(join(root, 'docs', 'map.svg'), svg);
process.stdout.write(`docs/map.svg: ${rooms.size} rooms\n`);
