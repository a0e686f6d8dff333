import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isAlike, merged, withTheirs } from './merge';

type Line = { id: string; points: number; note?: string };
const line = (id: string, points = 1, note?: string): Line => ({ id, points, ...(note === undefined ? {} : { note }) });
const ids = (lines: readonly Line[]) => lines.map((one) => one.id).join('');

describe('joining what two people did', () => {
  it('takes each one’s change where they touched different places', () => {
    const base = { title: 'A', rule: { minutes: 30, grace: 2 } };
    const mine = { title: 'B', rule: { minutes: 30, grace: 2 } };
    const theirs = { title: 'A', rule: { minutes: 45, grace: 2 } };
    expect(merged(base, mine, theirs)).toEqual({ value: { title: 'B', rule: { minutes: 45, grace: 2 } }, clashes: [] });
  });

  it('names the place where both changed the same otherwise, and leaves mine there', () => {
    const { value, clashes } = merged({ a: 1, b: 1 }, { a: 2, b: 1 }, { a: 3, b: 4 });
    expect(value).toEqual({ a: 2, b: 4 });
    expect(clashes).toEqual([{ path: ['a'], base: 1, mine: 2, theirs: 3 }]);
  });

  it('joins lists thing by thing: what was added, removed and changed by either', () => {
    const base = [line('a'), line('b'), line('c')];
    const mine = [line('a', 5), line('x'), line('b'), line('c')];
    const theirs = [line('a'), line('c'), line('y')];
    const { value, clashes } = merged(base, mine, theirs);
    expect(value).toEqual([line('a', 5), line('x'), line('c'), line('y')]);
    expect(clashes).toEqual([]);
  });

  it('keeps a line that one removed and the other changed, and names it', () => {
    const { value, clashes } = merged([line('a'), line('b')], [line('b')], [line('a', 2), line('b')]);
    expect(ids(value)).toBe('ab');
    expect(clashes).toEqual([{ path: ['a'], base: line('a'), mine: undefined, theirs: line('a', 2) }]);
  });

  it('follows whoever changed the order', () => {
    const base = [line('a'), line('b'), line('c')];
    const moved = [line('c'), line('a'), line('b')];
    const added = [line('a'), line('b'), line('z'), line('c')];
    expect(ids(merged(base, moved, added).value)).toBe('cabz');
    expect(ids(merged(base, added, moved).value)).toBe('cabz');
  });

  it('does not mix the fields of two kinds of thing', () => {
    type Expiry = { kind: string; minutes?: number };
    const { value, clashes } = merged<{ expiry: Expiry }>(
      { expiry: { kind: 'grace', minutes: 2 } },
      { expiry: { kind: 'none' } },
      { expiry: { kind: 'grace', minutes: 5 } },
    );
    expect(value).toEqual({ expiry: { kind: 'none' } });
    expect(clashes.map((one) => one.path.join('.'))).toEqual(['expiry']);
  });

  it('takes a text as one value', () => {
    const { value, clashes } = merged({ doc: ['a', 'b'] }, { doc: ['a', 'c'] }, { doc: ['d', 'b'] });
    expect([value, clashes.length]).toEqual([{ doc: ['a', 'c'] }, 1]);
  });
});

/** Values as forms have them: fields, and lists of things with ids of a few, so that they meet. */
const field = fc.constantFrom('title', 'points', 'note', 'rule');
const scalar = fc.oneof(fc.integer({ min: 0, max: 3 }), fc.constantFrom('x', 'y'), fc.constant(null));
const things = fc.uniqueArray(fc.record({ id: fc.constantFrom('a', 'b', 'c', 'd', 'e'), points: scalar }), {
  selector: (one) => one.id,
});
const form = fc.record({
  fields: fc.dictionary(field, scalar),
  lines: things,
  rule: fc.record({ one: scalar, two: scalar }),
});

describe('joining, whatever was done', () => {
  it('whoever did nothing changes nothing', () => {
    fc.assert(
      fc.property(form, form, (base, mine) => {
        expect(merged(base, mine, base)).toEqual({ value: mine, clashes: [] });
        expect(merged(base, base, mine)).toEqual({ value: mine, clashes: [] });
        expect(merged(base, mine, mine)).toEqual({ value: mine, clashes: [] });
      }),
    );
  });

  it('every place is as one of the two left it, and where it is neither mine nor named, mine was as the beginning', () => {
    fc.assert(
      fc.property(form, form, form, (base, mine, theirs) => {
        const { value, clashes } = merged(base, mine, theirs);
        const named = new Set(clashes.map((one) => one.path.join('.')));
        for (const key of ['one', 'two'] as const) {
          const at = value.rule[key];
          expect([mine.rule[key], theirs.rule[key]]).toContainEqual(at);
          if (!isAlike(at, mine.rule[key])) expect(mine.rule[key]).toEqual(base.rule[key]);
          if (!isAlike(at, theirs.rule[key]) && !isAlike(theirs.rule[key], base.rule[key]))
            expect(named).toContain(`rule.${key}`);
        }
      }),
    );
  });

  it('no line that somebody added or changed is missing, and none stands twice', () => {
    fc.assert(
      fc.property(things, things, things, (base, mine, theirs) => {
        const { value } = merged(base, mine, theirs);
        expect(new Set(value.map((one) => one.id)).size).toBe(value.length);
        for (const one of [...mine, ...theirs])
          if (!base.some((before) => isAlike(before, one))) expect(value.map((line) => line.id)).toContain(one.id);
        for (const { id } of value) expect([...mine, ...theirs].map((line) => line.id)).toContain(id);
      }),
    );
  });

  it('the two find the same places, whoever joins', () => {
    fc.assert(
      fc.property(form, form, form, (base, mine, theirs) => {
        const paths = (list: { path: readonly string[] }[]) => list.map((one) => one.path.join('.')).sort();
        expect(paths(merged(base, mine, theirs).clashes)).toEqual(paths(merged(base, theirs, mine).clashes));
      }),
    );
  });

  it('with theirs where both changed, it is what the other would have had', () => {
    fc.assert(
      fc.property(form, form, form, (base, mine, theirs) => {
        const { value, clashes } = merged(base, mine, theirs);
        const taken = withTheirs(value, clashes);
        const other = merged(base, theirs, mine).value;
        expect(taken.rule).toEqual(other.rule);
        const gone = clashes.filter((clash) => clash.theirs === undefined).map((clash) => clash.path.at(-1));
        for (const [key, field] of Object.entries(other.fields))
          expect(taken.fields[key]).toEqual(gone.includes(key) ? undefined : field);
        for (const one of other.lines) {
          expect(taken.lines.some((line) => isAlike(line, one))).toBe(!gone.includes(one.id));
        }
      }),
    );
  });
});
