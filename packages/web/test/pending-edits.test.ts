import 'fake-indexeddb/auto';
import type { OneAtATime } from '../src/project/session/one-at-a-time';
import { type Pending, PendingEdits } from '../src/project/session/pending-edits';

const opened: PendingEdits[] = [];
const windowOf = (project: string) => {
  const window = new PendingEdits(project);
  opened.push(window);
  return window;
};
afterEach(() => {
  for (const window of opened.splice(0)) window.close();
});

const edit = (id: string): Pending => ({ edit: { id, baseVersion: 1, label: id, puts: [], removes: [] }, before: [] });
const idsOf = (list: readonly Pending[]) => list.map(({ edit: { id } }) => id);
/** Waits for what a window writes. */
const written = (window: PendingEdits) => (window as unknown as { writing: OneAtATime }).writing.ask();

test('what a window keeps after it was closed, when a late answer came, is taken over by the next one', async () => {
  const gone = windowOf('late');
  gone.keep([edit('first'), edit('second')]);
  await written(gone);
  gone.close();
  await written(gone);
  // The answer about the first edit, which was on its way.
  gone.keep([edit('second')]);
  await written(gone);
  const next = windowOf('late');
  expect(idsOf(await next.takeOver())).toEqual(['second']);
});

test('what a window holds that lives is nobody else’s', async () => {
  const here = windowOf('living');
  here.keep([edit('mine')]);
  await written(here);
  expect(await windowOf('living').takeOver()).toEqual([]);
});
