import { rulerStep } from '../src/bench/plane/draw-rulers';
import { keysOf } from '../src/commands/commands';
import { familiesOf } from '../src/project/files/families';

const press = (
  key: string,
  held: Partial<Record<'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey', boolean>> = {},
  code = '',
) => keysOf({ key, code, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held });

test.each([
  ['a letter', press('g'), 'G'],
  ['a letter with Shift', press('G', { shiftKey: true }), 'Shift+G'],
  ['a sign that needs Shift', press('?', { shiftKey: true }), '?'],
  ['Ctrl, or the command key', press('k', { metaKey: true }), 'Ctrl+K'],
  ['several', press('V', { ctrlKey: true, shiftKey: true }), 'Ctrl+Shift+V'],
  ['a digit with Alt, whatever it types', press('™', { altKey: true }, 'Digit2'), 'Alt+2'],
  ['a named key', press('PageUp', { shiftKey: true }), 'Shift+PageUp'],
])('%s', (_, got, wanted) => expect(got).toBe(wanted));

test('steps of rulers are 1, 2, 5, 10 … and at least as long as asked', () => {
  for (const scale of [0.013, 0.1, 0.52, 1, 3.3, 16, 64]) {
    const step = rulerStep(scale, 56);
    expect(step * scale).toBeGreaterThanOrEqual(Math.min(56, step === 1 ? 0 : 56) - 1e-6);
    expect([1, 2, 5]).toContain(+String(step).replace(/0+$/, ''));
  }
  expect(rulerStep(64, 56)).toBe(1);
  expect(rulerStep(0.52, 56)).toBe(200);
});

test('families: a project’s own first, weights of both together', () => {
  const families = familiesOf(
    [
      { family: 'Tidal', weight: 700 },
      { family: 'Tidal', weight: 400 },
    ],
    [
      { family: 'Shipped', weight: 400 },
      { family: 'Tidal', weight: 500 },
    ],
  );
  expect(families).toEqual([
    { family: 'Tidal', weights: [400, 500, 700] },
    { family: 'Shipped', weights: [400] },
  ]);
});
