import {
  frontFirst,
  groupLayers,
  layerBounds,
  moveLayers,
  outermost,
  performRequest,
  removeLayers,
  reorderLayer,
  ungroup,
} from '../src';
import { project, refusalOf, snapshot, svg } from './fixtures';

const made = () => {
  const { doc } = project({
    a: svg(
      '<g id="outer" transform="translate(2 0) scale(2)" fill="#f00"><rect id="in" x="1" y="1" width="2" height="2"/><rect id="two" x="4" width="2" height="2" fill="#0f0"/></g><rect id="free" x="1" y="12" width="3" height="3"/>',
    ),
  });
  const layer = (name: string) => {
    const found = doc.list('layer').find((each) => each.name === name);
    if (!found) throw new Error(`no layer ${name}`);
    return found;
  };
  return { doc, layer };
};

test('what lies inside another chosen layer is not taken twice', () => {
  const { doc, layer } = made();
  expect(outermost(doc, [layer('in').id, layer('outer').id, layer('free').id]).map((each) => each.name)).toEqual([
    'outer',
    'free',
  ]);
});

test('moving counts in px of the plane, inside any group; locked layers stay', () => {
  const { doc, layer } = made();
  const before = layerBounds(doc, layer('in').id);
  doc.apply({ puts: moveLayers(doc, [layer('in').id], 5, 3), removes: [] });
  expect(layerBounds(doc, layer('in').id)?.minX).toBeCloseTo((before?.minX ?? 0) + 5);
  doc.apply({ puts: [{ ...layer('free'), locked: true }], removes: [] });
  expect(moveLayers(doc, [layer('free').id], 1, 1)).toEqual([]);
});

test('group and ungroup: everything keeps its place and paint', () => {
  const { doc, layer } = made();
  const places = () => ['in', 'two', 'free'].map((name) => layerBounds(doc, layer(name).id));
  const before = places();
  const { change, groupId } = groupLayers(doc, [layer('in').id, layer('free').id]);
  doc.apply(change);
  places().forEach((box, i) => {
    for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const)
      expect(box?.[side]).toBeCloseTo(before[i]?.[side] ?? Number.NaN);
  });
  expect(layer('in')).toMatchObject({ parentId: groupId, attrs: { fill: '#f00' } });
  doc.apply(ungroup(doc, groupId));
  expect(doc.get(groupId)).toBeUndefined();
  doc.apply(ungroup(doc, layer('outer').id));
  expect(layer('two').attrs.fill).toBe('#0f0');
  expect(layerBounds(doc, layer('two').id)).toEqual(before[1]);
});

test('undoing a group is the state before', () => {
  const { doc, layer } = made();
  const before = snapshot(doc);
  const undo = doc.apply(groupLayers(doc, [layer('in').id, layer('free').id]).change);
  doc.apply(undo);
  expect(snapshot(doc)).toEqual(before);
});

test('a group with an effect is not taken apart', () => {
  const { doc, layer } = made();
  doc.apply({ puts: [{ ...layer('outer'), opacity: 0.5 }], removes: [] });
  expect(refusalOf(() => ungroup(doc, layer('outer').id)).code).toBe('ungroup.effect');
  expect(refusalOf(() => ungroup(doc, layer('free').id)).code).toBe('ungroup.not');
  expect(refusalOf(() => groupLayers(doc, [])).code).toBe('group.empty');
});

test('order among siblings', () => {
  const { doc, layer } = made();
  const parent = layer('in').parentId;
  const names = () => frontFirst(doc, parent).map((each) => each.name);
  expect(names()).toEqual(['two', 'in']);
  doc.apply({ puts: reorderLayer(doc, layer('in'), 'front'), removes: [] });
  expect(names()).toEqual(['in', 'two']);
  expect(reorderLayer(doc, layer('in'), 'forward')).toEqual([]);
  doc.apply({ puts: reorderLayer(doc, layer('in'), 'backward'), removes: [] });
  expect(names()).toEqual(['two', 'in']);
});

test('removing takes all that is inside', () => {
  const { doc, layer } = made();
  const ids = removeLayers(doc, [layer('outer').id, layer('in').id]);
  expect(ids).toHaveLength(3);
  doc.apply({ puts: [], removes: ids });
  expect(
    doc
      .list('layer')
      .map((each) => each.name)
      .sort(),
  ).toEqual(['a', 'free']);
});

test('layers of several groups in one: none has a transform that changes nothing', () => {
  const { doc } = project({
    a: svg('<g id="one"><path id="p" d="M0 0h9v9z"/></g><g id="two"><path id="q" d="M9 9h9v9z"/></g>'),
  });
  const ids = doc.list('layer').flatMap(({ id, tag }) => (tag === 'path' ? [id] : []));
  expect(ids).toHaveLength(2);
  doc.apply(performRequest(doc, 'group', { ids }));
  for (const layer of doc.list('layer')) expect(layer.transform ?? 'none').toBe('none');
});
