import { artworkIndex, crispness, edgesIn, ProjectDocument, placeFiles, readSvg } from '@tolvik/core';
import { rasterise } from '../src';

/** Drawings of bars, lines and frames that do not lie over each other, each in a cell of its own of 12 px. */
function drawing(seed: number): string {
  let state = seed * 7919 + 1;
  const random = () => (state = (state * 16807) % 2147483647) / 2147483647;
  const step = () => [0, 0.5, 0.25, random()][Math.floor(random() * 4)];
  const cells = [0, 12, 24, 36].flatMap((x) => [0, 12, 24, 36].map((y) => [x, y]));
  const shapes = cells.map(([x, y], i) => {
    const [left, top, wide, high] = [x + 2 + step(), y + 2 + step(), 5 + step(), 4 + step()];
    const lines = `stroke="#000" stroke-width="${1 + step()}" fill="none"`;
    return [
      `<rect x="${left}" y="${top}" width="${wide}" height="${high}"/>`,
      `<path d="M${left} ${top}h${wide}" ${lines}/>`,
      `<rect x="${left}" y="${top}" width="${wide}" height="${high}" ${lines}/>`,
      `<g transform="translate(${left} ${top}) scale(.5)"><path d="M0 0h12v4h-6v6H0z"/></g>`,
      `<path d="M${left} ${top}v${high}" ${lines} stroke-linecap="square"/>`,
    ][i % 5];
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="48" height="48" viewBox="0 0 48 48">${shapes.join('')}</svg>`;
}

test.each([48, 32, 64, 96])('what geometry says of edges is what px show, at %i px', (side) => {
  const wrong: string[] = [];
  let [crisp, soft] = [0, 0];
  for (let seed = 0; seed < 12; seed++) {
    const svg = drawing(seed);
    const doc = new ProjectDocument();
    doc.apply({ puts: placeFiles(doc, [{ name: 'a', artwork: readSvg(svg, 'a.svg') }], []), removes: [] });
    const [view] = doc.list('artboard');
    const grid = { view, widthPx: side, heightPx: side };
    const scale = side / 48;
    // A stroke thinner than a px is drawn as a hairline, wherever it lies.
    const { leaves } = artworkIndex(doc);
    const edges = edgesIn(
      doc,
      leaves.filter(({ strokePx }) => strokePx === 0 || strokePx * scale >= 1),
    );
    const sized = svg.replace('width="48" height="48"', `width="${side}" height="${side}"`);
    const { data } = rasterise(sized, side, side);
    const { off } = crispness(edges, grid);
    const offPx = new Map(off.map((each) => [each.edge, each.offPx]));
    for (const edge of edges) {
      const place = edge.at * scale;
      const along = Math.floor(((edge.from + edge.to) / 2) * scale);
      // Between two ends that are pixels of their own, what is thinner than two px shows its other edge, too.
      if ((edge.to - edge.from) * scale < 3) continue;
      const alpha = (at: number) => data[(edge.across === 'x' ? along * side + at : at * side + along) * 4 + 3];
      const found = [...offPx].find(([each]) => each.layer === edge.layer && each.at === edge.at);
      // The rasteriser looks at quarters of a px.
      if (found && Math.abs(found[1]) > 0.2) {
        soft++;
        const seen = alpha(Math.floor(place));
        if (seen < 8 || seen > 247) wrong.push(`${seed}: ${edge.across} ${edge.at} is not soft: ${seen}`);
      } else if (!found) {
        crisp++;
        const [one, other] = [alpha(Math.round(place) - 1), alpha(Math.round(place))].sort((a, b) => a - b);
        if (one > 8) wrong.push(`${seed}: ${edge.across} ${edge.at} is not crisp: ${one} ${other}`);
      }
    }
  }
  expect(wrong).toEqual([]);
  expect(Math.min(crisp, soft)).toBeGreaterThan(20);
});
