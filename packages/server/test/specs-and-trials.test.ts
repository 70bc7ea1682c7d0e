import { type Output, outputRecord, specFile } from '@tolvik/core';
import { client, icon, startOnOwnDatabase } from './running';

let server: Awaited<ReturnType<typeof startOnOwnDatabase>>;
let api: ReturnType<typeof client>;
beforeAll(async () => {
  server = await startOnOwnDatabase();
  api = client(server.url);
});
afterAll(() => server.close());

const outputs = async (id: string) =>
  (await api.records(id)).filter((record): record is Output => record.kind === 'output');
const brought = async (files: Record<string, string> = { 'anchor.svg': icon() }) => {
  const id = await api.project();
  await api.bringIn(id, files);
  return id;
};

describe('kept specs', () => {
  const file = specFile.parse({
    tolvik: 'spec',
    version: 1,
    spec: { name: 'Studio' },
    outputs: [{ size: { kind: 'factor', factor: 2 }, settings: { format: 'png' } }],
  });

  test('kept, listed for everyone, kept no longer', async () => {
    const { status, body } = await api.post('/specs', file);
    expect(status).toBe(201);
    expect((await api.get('/specs')).body.specs).toEqual([{ id: body.id, name: 'Studio', body: file, isFirst: false }]);
    expect((await api.delete(`/specs/${body.id}`)).status).toBe(204);
    expect((await api.get('/specs')).body.specs).toEqual([]);
    expect((await api.delete(`/specs/${body.id}`)).status).toBe(404);
  });

  test('one of them new projects begin with, until another does', async () => {
    const ids: string[] = [];
    for (const name of ['Studio', 'Print'])
      ids.push((await api.post('/specs', { ...file, spec: { ...file.spec, name } })).body.id);
    const first = async (id: string, isFirst = true) => api.patch(`/specs/${id}`, { isFirst });
    const beganWith = async () =>
      (await api.records(await brought())).flatMap((record) => (record.kind === 'spec' ? [record.name] : []));
    expect(await beganWith()).toEqual(['Web']);
    await first(ids[0]);
    expect(await beganWith()).toEqual(['Studio']);
    expect((await first(ids[1])).body).toMatchObject({ name: 'Print', isFirst: true });
    expect((await api.get('/specs')).body.specs.filter(({ isFirst }: { isFirst: boolean }) => isFirst)).toHaveLength(1);
    expect(await beganWith()).toEqual(['Print']);
    await first(ids[1], false);
    expect(await beganWith()).toEqual(['Web']);
    expect((await first('nobody')).status).toBe(404);
    for (const id of ids) await api.delete(`/specs/${id}`);
  });

  test('what is no spec is refused, saying where', async () => {
    const { status, body } = await api.post('/specs', {
      ...file,
      outputs: [{ size: { kind: 'factor', factor: 0 }, settings: { format: 'png' } }],
    });
    expect(status).toBe(422);
    expect(JSON.stringify(body)).toContain('outputs');
  });
});

describe('trials', () => {
  test('other settings, the same size; chosen afterwards, the very bytes are the file’s', async () => {
    const id = await brought({ 'card.svg': icon('<path d="M2.345 3.456h18.2v9z"/>') });
    const [plan] = (await api.get(`/projects/${id}/plan`)).body.files;
    const svg = (await outputs(id)).find((output) => output.settings.format === 'svg') as Output;
    const settings = { ...svg.settings, decimals: 0 } as Output['settings'];
    const response = await fetch(`${server.url}/api/projects/${id}/trial`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ pieceId: plan.pieceId, outputId: svg.id, settings }),
    });
    expect(response.headers.get('content-type')).toContain('image/svg+xml');
    const tried = await response.text();
    expect(tried).toContain('M2 3h19');
    await api.edit(id, { puts: [{ ...svg, settings }] });
    expect((await api.bytes(`/projects/${id}/files/${plan.pieceId}/${svg.id}`)).toString()).toBe(tried);
  });

  test('another format, or settings that cannot be, are refused', async () => {
    const id = await brought();
    const [file] = (await api.get(`/projects/${id}/plan`)).body.files;
    const ask = (settings: unknown) =>
      api.post(`/projects/${id}/trial`, { pieceId: file.pieceId, outputId: file.outputId, settings });
    expect((await ask({ format: 'jpeg', quality: 50 })).body.code).toBe('trial.format');
    expect((await ask({ format: 'svg', decimals: 99 })).status).toBe(422);
    expect(
      (
        await api.post(`/projects/${id}/trial`, {
          pieceId: 'nobody',
          outputId: file.outputId,
          settings: { format: 'svg' },
        })
      ).status,
    ).toBe(404);
  });
});

describe('a PDF of all pieces', () => {
  test('one file in the plan, on the shelf and in the delivery; each page to look at by itself', async () => {
    const id = await brought({
      'anchor.svg': icon(),
      'boat.svg': icon('<circle cx="12" cy="12" r="5"/>'),
      'crab.svg': icon('<rect width="9" height="9"/>'),
    });
    const [first] = await outputs(id);
    const pdf = outputRecord.parse({
      ...first,
      id: 'pdf',
      order: 'b00',
      suffix: '-book',
      settings: { format: 'pdf', pages: 'together' },
    });
    await api.edit(id, { puts: [pdf] });
    const { body: plan } = await api.get(`/projects/${id}/plan`);
    const [book] = plan.files.filter((file: { outputId: string }) => file.outputId === 'pdf');
    expect(book).toMatchObject({ pages: 3, path: 'Test-book.pdf' });
    expect(plan.pages.map((page: { page: number }) => page.page)).toEqual([1, 2, 3]);
    expect((await api.get('/projects')).body.projects.find((project: { id: string }) => project.id === id).files).toBe(
      plan.files.length,
    );

    const page = await api.bytes(`/projects/${id}/files/${plan.pages[1].pieceId}/pdf`);
    expect(page.toString('latin1').match(/\/Type \/Page\b(?!s)/g)).toHaveLength(1);
    const whole = await api.bytes(`/projects/${id}/files/${book.pieceId}/pdf?whole`);
    expect(whole.toString('latin1').match(/\/Type \/Page\b(?!s)/g)).toHaveLength(3);

    const { body: delivery } = await api.post(`/projects/${id}/deliveries`, { outputIds: ['pdf'] });
    const settled = await api.settled(delivery.id);
    expect(settled).toMatchObject({ state: 'done', total: 1, made: 1 });
    expect(settled.files[0].now).toMatchObject({ path: 'Test-book.pdf', measured: { pages: 3 } });
    expect((await api.get(`/deliveries/${delivery.id}/paths`)).body).toEqual({ number: 1, paths: ['Test-book.pdf'] });
  });
});
