import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type CategoryRow, categoryPathNames, categoryPaths, categoryTree, mayMoveBelow } from './categoryTree';

const row = (id: string, parentId: string | null, position = 0, name = id): CategoryRow => ({
  id,
  parentId,
  name,
  position,
});

const tides = [
  row('tides', null, 1, 'Tides'),
  row('charts', null, 0, 'Charts'),
  row('streams', 'tides', 1, 'Streams'),
  row('heights', 'tides', 0, 'Heights'),
  row('springs', 'heights', 0, 'Springs'),
];

/** A random forest: every row stands below an earlier one or at the top. */
const anyForest = fc
  .array(fc.record({ parent: fc.nat(), top: fc.boolean(), position: fc.nat(5), count: fc.nat(9) }), {
    minLength: 1,
    maxLength: 25,
  })
  .map((specs) => ({
    rows: specs.map((spec, i) => row(`c${i}`, i === 0 || spec.top ? null : `c${spec.parent % i}`, spec.position)),
    counts: new Map(specs.map((spec, i) => [`c${i}`, spec.count])),
  }));

describe('the tree', () => {
  it('gives the names with those above them in the same reading order', () => {
    expect([...categoryPathNames(tides).values()]).toEqual([
      'Charts',
      'Tides',
      'Tides › Heights',
      'Tides › Heights › Springs',
      'Tides › Streams',
    ]);
  });

  it('stands in reading order with own counts and counts with everything below', () => {
    const nodes = categoryTree(
      tides,
      new Map([
        ['tides', 1],
        ['heights', 2],
        ['springs', 4],
        ['charts', 8],
      ]),
    );
    expect(nodes.map(({ name, depth, own, below }) => [name, depth, own, below])).toEqual([
      ['Charts', 0, 8, 8],
      ['Tides', 0, 1, 7],
      ['Heights', 1, 2, 6],
      ['Springs', 2, 4, 4],
      ['Streams', 1, 0, 0],
    ]);
  });

  it('holds every category once, each behind the one above it, and no question is lost in the counts', () => {
    fc.assert(
      fc.property(anyForest, ({ rows, counts }) => {
        const nodes = categoryTree(rows, counts);
        expect(nodes.map((node) => node.id).sort()).toEqual(rows.map((one) => one.id).sort());
        const place = new Map(nodes.map((node, i) => [node.id, i]));
        for (const node of nodes)
          if (node.parentId) expect(place.get(node.parentId)).toBeLessThan(place.get(node.id) as number);
        const atTop = nodes.filter((node) => node.depth === 0).reduce((sum, node) => sum + node.below, 0);
        expect(atTop).toBe([...counts.values()].reduce((sum, n) => sum + n, 0));
      }),
      { seed: 21 },
    );
  });
});

describe('paths', () => {
  it('name a category with those above it', () => {
    expect(categoryPaths(tides).get('springs')).toEqual(['tides', 'heights', 'springs']);
    expect(categoryPathNames(tides).get('springs')).toBe('Tides › Heights › Springs');
  });

  it('allow a move exactly when the target does not lie below what is moved', () => {
    fc.assert(
      fc.property(anyForest, fc.nat(), fc.nat(), ({ rows }, a, b) => {
        const moved = rows[a % rows.length]?.id ?? '';
        const target = rows[b % rows.length]?.id ?? '';
        let above: string | null = target;
        let inside = false;
        while (above !== null) {
          inside ||= above === moved;
          above = rows.find((one) => one.id === above)?.parentId ?? null;
        }
        expect(mayMoveBelow(rows, moved, target)).toBe(!inside);
        expect(mayMoveBelow(rows, moved, null)).toBe(true);
      }),
      { seed: 22 },
    );
  });
});
