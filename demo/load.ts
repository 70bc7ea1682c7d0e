import { readdirSync, readFileSync } from 'node:fs';
import { basename, extname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  type Artboard,
  asEdit,
  type Change,
  DEFAULT_SETTINGS,
  editionRecord,
  findTrouble,
  intakeRules,
  type Layer,
  type LayerOverride,
  mendFindings,
  NO_FONTS,
  newId,
  type Output,
  ordersAfter,
  ProjectDocument,
  type ProjectRecord,
  performRequest,
  planFiles,
  receiverAnswer,
  receiversAnswer,
  recordsOfLibrarySpec,
  SETTINGS_ID,
  sliceRecord,
} from '@tolvik/core';
import { drawnMeetings, shippedFonts } from '@tolvik/render';

/**
 * Loads the demo projects of a made-up seaweed farm into an empty server, through the same doors as
 * any person's files: bring-in for the artwork, edits for what is done with it.
 */
const access: Record<string, string> = process.env.TOLVIK_ACCESS_KEY
  ? { authorization: `Bearer ${process.env.TOLVIK_ACCESS_KEY}` }
  : {};
const HERE = fileURLToPath(new URL('../demo/', import.meta.url));

/** One project while it is being set up. */
class Setup {
  readonly doc = new ProjectDocument();
  private version = 0;

  private constructor(
    private readonly server: string,
    readonly id: string,
  ) {}

  static async create(server: string, name: string): Promise<Setup> {
    const { id } = (await send(`${server}/api/projects`, { name })) as { id: string };
    return new Setup(server, id);
  }

  async commit(change: Change): Promise<void> {
    const { version } = (await send(`${this.server}/api/projects/${this.id}/edits`, asEdit(change, this.version))) as {
      version: number;
    };
    this.doc.apply(change);
    this.version = version;
  }

  /** Adds ready-made specs; the first is followed by new pieces. */
  async specs(...keys: string[]): Promise<string[]> {
    const ids: string[] = [];
    for (const key of keys) {
      const { spec, outputs } = recordsOfLibrarySpec(key, this.doc);
      ids.push(spec.id);
      const settings: ProjectRecord[] =
        ids.length === 1 ? [{ ...DEFAULT_SETTINGS, id: SETTINGS_ID, defaultSpecId: spec.id }] : [];
      await this.commit({ label: `add spec ${spec.name}`, puts: [spec, ...outputs, ...settings], removes: [] });
    }
    return ids;
  }

  async bringIn(paths: readonly string[]): Promise<void> {
    const form = new FormData();
    for (const path of paths) form.append('files', new File([readFileSync(path)], basename(path)));
    const response = await fetch(`${this.server}/api/projects/${this.id}/bring-in`, {
      method: 'POST',
      body: form,
      headers: access,
    });
    const answer = (await response.json()) as {
      version: number;
      change: Change | null;
      report: { file: string; problem?: { message: string } }[];
    };
    const refused = answer.report?.find((line) => line.problem);
    if (!answer.change || refused)
      throw new Error(`the demo could not be brought in: ${refused?.problem?.message ?? response.status}`);
    this.doc.apply(answer.change);
    this.version = answer.version;
  }

  artboard(name: string): Artboard {
    const found = this.doc.list('artboard').find((artboard) => artboard.name === name);
    if (!found) throw new Error(`the demo has no artboard ${name}`);
    return found;
  }

  layer(name: string): Layer {
    const found = this.doc.list('layer').find((layer) => layer.name === name);
    if (!found) throw new Error(`the demo has no layer ${name}`);
    return found;
  }
}

async function send(url: string, body: unknown, method = 'POST'): Promise<unknown> {
  const response = await fetch(url, {
    method,
    headers: { 'content-type': 'application/json', ...access },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(`the demo could not be loaded: ${await response.text()}`);
  return response.json();
}

const svgIn = (folder: string) =>
  readdirSync(join(HERE, folder))
    .filter((name) => extname(name) === '.svg')
    .sort()
    .map((name) => join(HERE, folder, name));

async function identity(server: string): Promise<void> {
  const setup = await Setup.create(server, 'Brinemoor identity');
  const [, cutting] = await setup.specs('handover', 'cutting');
  await setup.bringIn(['emblem.svg', 'wordmark.svg'].map((name) => join(HERE, 'identity', name)));
  const { doc } = setup;
  // The two parts are sources only; what is handed over are the lockups that follow them.
  await setup.commit({
    label: 'sources become no files',
    puts: doc.list('artboard').map((artboard) => ({ ...artboard, on: false })),
    removes: [],
  });
  const drawing = { fonts: shippedFonts(import.meta.url), pictures: () => undefined };
  const parts = ['emblem', 'wordmark'].map((name) => setup.artboard(name));
  const settings = {
    arrangements: ['wide', 'stacked', 'emblem', 'wordmark'],
    ...{ emblemHeight: 1.35, gap: 0.3, clearSpace: 0.3 },
    naming: 'logo-{lockup}',
    colourings: ['reversed', 'mono-dark', 'mono-light'],
    emblemId: parts[0].id,
    meetings: Object.fromEntries(parts.map((part) => [part.id, drawnMeetings(doc, part, drawing)])),
  };
  await setup.commit(performRequest(doc, 'make-lockups', { ids: parts.map(({ id }) => id), settings }));
  const smallest = {
    'logo-wide': { px: 96, mm: 22 },
    'logo-stacked': { px: 64, mm: 14 },
    'logo-emblem': { px: 16, mm: 5 },
  };
  for (const [name, settings] of Object.entries(smallest))
    await setup.commit(performRequest(doc, 'set-smallest', { ids: [setup.artboard(name).id], settings }));
  for (const settings of [
    { colour: '#0c6a53', name: 'kelp', cmyk: [88, 20, 70, 22], spot: 'Kelp 12' },
    { colour: '#171b1c', name: 'slate', cmyk: [60, 40, 40, 90] },
  ])
    await setup.commit(performRequest(doc, 'set-colour', { settings }));
  // What nobody could see, such as the white mark on white, is left out as the Proof would offer.
  const around = { doc, plan: planFiles(doc, 'Brinemoor identity'), fonts: NO_FONTS };
  const mended = mendFindings(
    findTrouble(around).filter((finding) => finding.check === 'too-little-contrast'),
    around,
  );
  if (mended) await setup.commit(mended);
  // Of what has two colours, one would be lost: the dark words on the dark ground, the light ones on white.
  const dark = (output: Output) => output.background.startsWith('#') && output.background !== '#ffffff';
  const lost = (artboard: Artboard, output: Output) =>
    artboard.name.endsWith('-reversed') ? output.background === '#ffffff' : dark(output);
  const puts = doc
    .list('artboard')
    .filter(({ name }) => /^logo-(wide|stacked)(-reversed)?$/.test(name))
    .map((artboard) => ({
      ...artboard,
      offOutputIds: [
        ...new Set([
          ...artboard.offOutputIds,
          ...doc
            .list('output')
            .filter((output) => lost(artboard, output))
            .map((output) => output.id),
        ]),
      ],
    }));
  await setup.commit({ label: 'leave out where a part could not be seen', puts, removes: [] });
  // What is in one ink goes to the sign maker, too, half a metre wide.
  const signs = doc.list('output').filter(({ specId }) => specId === cutting);
  await setup.commit({
    label: 'signs are half a metre wide',
    puts: signs.map((output) => ({ ...output, size: { kind: 'widthMm' as const, mm: 500 }, suffix: '-500mm' })),
    removes: [],
  });
  await setup.commit({
    label: 'cut what is in one ink',
    puts: doc
      .list('artboard')
      .filter(({ name }) => name.endsWith('-mono-dark'))
      .map((artboard) => ({ ...artboard, specIds: [...artboard.specIds, cutting] })),
    removes: [],
  });
}

async function harbourIcons(server: string): Promise<void> {
  const setup = await Setup.create(server, 'Harbour icons');
  const specIds = await setup.specs('web', 'app', 'density');
  await setup.bringIn(
    svgIn('harbour-icons').sort(
      (a, b) => Number(a.includes('-bold')) - Number(b.includes('-bold')) || (a < b ? -1 : 1),
    ),
  );
  await setup.commit({
    label: 'follow all three specs',
    puts: setup.doc.list('artboard').map((artboard) => ({ ...artboard, specIds })),
    removes: [],
  });
  await appBuild(server, setup.id);
}

/** What an app build takes: two of the files made for it have longer paths. */
export const APP_BUILD_RULES = intakeRules.parse({
  version: 1,
  name: 'App build',
  names: { letters: 'small', plain: true, longest: 31 },
});

/** An app build that takes every export but paths that are too long for it, where the server may write anywhere. */
async function appBuild(server: string, projectId: string): Promise<void> {
  const at = `${server}/api/projects/${projectId}/receivers`;
  const { roots } = receiversAnswer.parse(await (await fetch(at, { headers: access })).json());
  if (roots.length === 0) return;
  const { id } = receiverAnswer.parse(await send(at, { name: 'App build', root: roots[0], folder: 'harbour-icons' }));
  await send(`${server}/api/receivers/${id}`, { rules: APP_BUILD_RULES }, 'PATCH');
}

const SEASONS = [
  { key: 'spring', ground: '#cfe6d9', ink: '#12343b' },
  { key: 'summer', ground: '#f3dfa6', ink: '#4a3206' },
  { key: 'autumn', ground: '#e4b79b', ink: '#451508' },
  { key: 'winter', ground: '#d9dfeb', ink: '#1b2a4a' },
];

async function seasonCards(server: string): Promise<void> {
  const setup = await Setup.create(server, 'Season cards');
  const [specId] = await setup.specs('cards');
  await setup.bringIn([join(HERE, 'season-cards', 'card.svg')]);
  const card = setup.artboard('card');
  const wordings = SEASONS.flatMap(({ key }) =>
    ['English', 'Norwegian'].map((language) => setup.layer(`${key}, ${language}`)),
  );
  const [ground, swell, sprig, wording] = ['Ground', 'Swell', 'Kelp sprig', 'Wording'].map((name) => setup.layer(name));
  await setup.commit({
    label: 'base of the cards',
    puts: [
      { ...setup.layer('Trim guide'), benchOnly: true },
      ...wordings.slice(1).map((layer) => ({ ...layer, shown: false })),
      { ...card, on: false },
    ],
    removes: [],
  });
  const wanted = SEASONS.flatMap((season) => [
    { season, language: 'English', code: 'en', left: false },
    { season, language: 'English', code: 'en', left: true },
    { season, language: 'Norwegian', code: 'no', left: false },
  ]);
  const orders = ordersAfter(null, wanted.length);
  const editions = wanted.map(({ season, language, code, left }, i) => {
    const overrides: Record<string, LayerOverride> = {};
    const shown = setup.layer(`${season.key}, ${language}`);
    if (shown.id !== wordings[0].id) {
      overrides[wordings[0].id] = { shown: false };
      overrides[shown.id] = { shown: true };
    }
    if (season.key !== 'spring') {
      overrides[ground.id] = { tint: season.ground };
      overrides[swell.id] = { tint: season.ink };
      overrides[wording.id] = { tint: season.ink };
      overrides[sprig.id] = { tint: season.ink };
    }
    if (left) {
      overrides[sprig.id] = { ...overrides[sprig.id], offset: { x: -770, y: 0 } };
      overrides[wording.id] = { ...overrides[wording.id], offset: { x: 280, y: 0 } };
    }
    return editionRecord.parse({
      id: newId(),
      kind: 'edition',
      artboardId: card.id,
      order: orders[i],
      name: `card-${season.key}-${code}${left ? '-left' : ''}`,
      overrides,
      specIds: [specId],
    });
  });
  await setup.commit({ label: 'make 12 editions', puts: editions, removes: [] });
}

async function needsALook(server: string): Promise<void> {
  const setup = await Setup.create(server, 'Icons that need a look');
  const [web] = await setup.specs('web');
  await setup.bringIn(svgIn('needs-a-look'));
  const { doc } = setup;
  const jpeg = doc.list('output').find((output) => output.specId === web && output.suffix === '@2x');
  const crate = setup.artboard('crate');
  const boat = setup.artboard('boat');
  const puts: ProjectRecord[] = [
    { ...crate, x: crate.x + 0.25 },
    { ...boat, name: 'tide-high' },
  ];
  if (jpeg)
    puts.push({
      ...jpeg,
      id: newId(),
      order: `${jpeg.order}V`,
      size: { kind: 'width', widthPx: 512 },
      suffix: '-card',
      settings: { format: 'jpeg', quality: 85, chroma: 'auto' },
    });
  await setup.commit({ label: 'the trouble people bring', puts, removes: [] });
}

async function shoreMap(server: string): Promise<void> {
  const setup = await Setup.create(server, 'Shore map');
  const [specId] = await setup.specs('tiles');
  await setup.bringIn([join(HERE, 'shore-map', 'shore-map.jpg')]);
  const sheet = setup.artboard('shore-map');
  const [columns, rows] = [6, 4];
  const [width, height] = [sheet.width / columns, sheet.height / rows];
  const orders = ordersAfter(null, columns * rows);
  const tiles = orders.map((order, i) => {
    const [row, column] = [Math.floor(i / columns), i % columns];
    return sliceRecord.parse({
      id: newId(),
      kind: 'slice',
      order,
      name: `shore-${String.fromCharCode(97 + row)}${column + 1}`,
      source: { kind: 'region', x: sheet.x + column * width, y: sheet.y + row * height, width, height },
      tile: { of: sheet.id, row, column },
      specIds: [specId],
    });
  });
  await setup.commit({ label: 'cut into 24 tiles', puts: [...tiles, { ...sheet, on: false }], removes: [] });
}

/** Loads the demo when the server has never had a project; answers whether it did. */
export async function seedIfEmpty(server: string): Promise<boolean> {
  const { projects } = (await (await fetch(`${server}/api/health`, { headers: access })).json()) as {
    projects: number;
  };
  if (projects > 0) return false;
  for (const load of [identity, harbourIcons, seasonCards, needsALook, shoreMap]) await load(server);
  return true;
}
