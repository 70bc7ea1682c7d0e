import { CHECKS, type RuledFile, refusals } from '@tolvik/core';
import { APP_BUILD_RULES, seedIfEmpty } from '../../../demo/load';
import { client, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
  await seedIfEmpty(server.url);
}, 300_000);
afterAll(() => server.close());

type Project = { id: string; name: string };
const projects = async (): Promise<Project[]> => (await api.get('/projects')).body.projects;
type Found = { check: string; severity: string; message: string };
const findings = async ({ id }: Project): Promise<Found[]> => (await api.get(`/projects/${id}/findings`)).body.findings;

test('the clean demo gives nothing to look at; the one that needs a look gives plenty', async () => {
  const all = await projects();
  // Some troubles are only seen on what was rendered.
  for (const { id } of all) {
    for (let made = false; !made; await new Promise((resolve) => setTimeout(resolve, 400))) {
      const { files } = (await api.get(`/projects/${id}/made`)).body as {
        files: [string, string, string, number | null][];
      };
      made = files.every(([, , key, bytes]) => key === '' || bytes !== null);
    }
  }
  expect(all.map((project) => project.name).sort()).toEqual([
    'Brinemoor identity',
    'Harbour icons',
    'Icons that need a look',
    'Season cards',
    'Shore map',
  ]);
  for (const project of all) {
    const trouble = (await findings(project)).filter((finding) => finding.severity !== 'hint');
    if (project.name === 'Icons that need a look')
      expect(new Set(trouble.map((finding) => finding.check)).size).toBeGreaterThan(5);
    else expect(trouble.map((finding) => `${project.name}: ${finding.message}`)).toEqual([]);
  }
  const names = new Set(CHECKS.map((check) => check.name));
  for (const project of all) for (const finding of await findings(project)) expect(names).toContain(finding.check);
}, 300_000);

test('the app build that takes the icons refuses two of their files', async () => {
  const harbour = (await projects()).find(({ name }) => name === 'Harbour icons') as Project;
  const { files } = (await api.get(`/projects/${harbour.id}/plan`)).body;
  const refused = files.filter((file: RuledFile) => refusals(APP_BUILD_RULES, file).length > 0);
  expect(refused.map(({ path }: RuledFile) => path)).toHaveLength(2);
});

test('every file of the clean demo can be made: lockups that follow, editions, tiles', async () => {
  for (const project of await projects()) {
    const { files } = (await api.get(`/projects/${project.id}/plan`)).body;
    expect(files.length).toBeGreaterThan(20);
    if (project.name !== 'Icons that need a look')
      expect(
        files.filter((file: { problem?: string; clashes: unknown[] }) => file.problem || file.clashes.length > 0),
      ).toEqual([]);
  }
  expect(await seedIfEmpty(server.url)).toBe(false);
});
