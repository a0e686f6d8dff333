import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exampleDesign, exampleDraw, exampleEntry } from '../testing/exampleExam';
import { type ExamDesign, type ExamLine, examDesign, examsDrawnFrom, type PoolRule } from './design';
import { drawPaper } from './drawPaper';
import { wayBetween, withExamPools } from './examPools';
import { planCheck } from './planCheck';
import { inPool, neededFor, snapshotOf } from './snapshot';

const entries = Array.from({ length: 12 }, (_, n) => exampleEntry(n, [n < 6 ? 'tides' : 'lights']));
const idOf = (n: number) => entries[n]?.questionId as string;
const fixed = (n: number): ExamLine => ({ kind: 'fixed', id: `fixed-${n}`, questionId: idOf(n), points: 1 });
const from = (id: string, count: number, pool: Partial<PoolRule>): ExamLine => ({
  kind: 'draw',
  id,
  count,
  points: 1,
  pool: { categories: [], difficulties: [], ...pool },
});
const designs = (all: Record<string, ExamLine[]>): Map<string, ExamDesign> =>
  new Map(Object.entries(all).map(([id, lines]) => [id, exampleDesign(lines)]));
const heldBy = (all: Record<string, ExamLine[]>, exam: string) =>
  withExamPools(entries, designs(all), [exam])
    .flatMap((entry, n) => (entry.exams.includes(exam) ? [n] : []))
    .join(' ');

const examRing = (id: string, all: ReadonlyMap<string, ExamDesign>) => wayBetween(id, id, all);

describe('the questions of an exam as a pool', () => {
  it('are its fixed questions and everything its draws can take, also through further exams', () => {
    const weekly = { week1: [fixed(9), exampleDraw('draw-1', 2, ['tides'])], week2: [fixed(10)] };
    expect(heldBy(weekly, 'week1')).toBe('0 1 2 3 4 5 9');
    expect(heldBy({ ...weekly, check: [from('draw-2', 1, { exams: ['week1', 'week2'] }), fixed(11)] }, 'check')).toBe(
      '0 1 2 3 4 5 9 10 11',
    );
    expect(heldBy(weekly, 'gone')).toBe('');
  });

  it('are narrowed by what the further draw asks for', () => {
    const hard = entries.map((entry, n) => (n % 2 ? { ...entry, difficulty: 'hard' as const } : entry));
    const all = designs({
      week1: [from('draw-1', 1, { categories: [{ id: 'tides', below: true }], difficulties: ['hard'] })],
      check: [from('draw-2', 1, { exams: ['week1'] })],
    });
    const marked = withExamPools(hard, all, ['check']);
    expect(marked.flatMap((entry, n) => (entry.exams.length ? [n] : []))).toEqual([1, 3, 5]);
  });

  it('end in a ring too, and the ring is named from the exam back to it', () => {
    const ring = designs({
      a: [from('draw-a', 1, { exams: ['b'] }), fixed(1)],
      b: [from('draw-b', 1, { exams: ['c', 'd'] })],
      c: [fixed(2)],
      d: [from('draw-d', 1, { exams: ['a'] })],
      own: [from('draw-o', 1, { exams: ['own'] })],
    });
    expect(examRing('a', ring)).toEqual(['a', 'b', 'd', 'a']);
    expect(examRing('own', ring)).toEqual(['own', 'own']);
    expect(examRing('c', ring)).toBeNull();
    expect(withExamPools(entries, ring, ['a']).flatMap((entry, n) => (entry.exams.length ? [n] : []))).toEqual([1, 2]);
  });

  it('finds a ring exactly when walking the arrows comes back', () => {
    const names = ['a', 'b', 'c', 'd', 'e'];
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(4), fc.nat(4)), { maxLength: 9 }), (arrows) => {
        const to = (at: number) => arrows.filter(([x]) => x === at).map(([, y]) => y);
        const reach = new Set<number>();
        const walk = (at: number): void => {
          for (const next of to(at))
            if (!reach.has(next)) {
              reach.add(next);
              walk(next);
            }
        };
        walk(0);
        const all = designs(
          Object.fromEntries(
            names.map((name, i) => [name, [from(`draw-${name}`, 1, { exams: to(i).map((n) => names[n] as string) })]]),
          ),
        );
        const ring = examRing('a', all);
        expect(ring !== null).toBe(reach.has(0));
        ring?.slice(0, -1).forEach((at, i) => {
          expect(examsDrawnFrom(all.get(at) as ExamDesign)).toContain(ring[i + 1]);
        });
      }),
    );
  });

  it('can be drawn from like any pool, none twice', () => {
    const check = exampleDesign([
      from('draw-1', 2, { exams: ['week1'] }),
      from('draw-2', 1, { exams: ['week2'] }),
      from('draw-3', 2, { questions: [idOf(0), idOf(9), idOf(11)] }),
    ]);
    const all = designs({ week1: [exampleDraw('draw-w', 2, ['tides'])], week2: [fixed(9), fixed(10)] });
    const snapshot = neededFor(check, snapshotOf(withExamPools(entries, all, examsDrawnFrom(check))));
    expect(snapshot.entries).toHaveLength(9);
    expect(planCheck(check, snapshot, new Map(), new Map([...all.keys()].map((id) => [id, id])))).toMatchObject({
      problems: [],
      poolSizes: { 'draw-1': 6, 'draw-2': 2, 'draw-3': 3 },
    });
    for (let seed = 0; seed < 40; seed++) {
      const slots = drawPaper(check, snapshot, String(seed)) ?? [];
      expect(new Set(slots.map((slot) => slot.questionId)).size).toBe(5);
    }
  });

  it('an exam that is gone is named with its line', () => {
    const check = exampleDesign([from('draw-1', 1, { exams: ['gone'] })]);
    expect(planCheck(check, snapshotOf(entries), new Map()).problems.map((one) => [one.code, one.lineIds])).toEqual([
      ['exam-missing', ['draw-1']],
      ['empty-pool', ['draw-1']],
    ]);
  });
});

describe('what narrows a pool', () => {
  const entry = exampleEntry(1, ['tides'], { objectives: ['o1', 'o2'], tags: ['night'], daysSinceUse: 30 });
  const within = (more: Partial<PoolRule>) =>
    inPool(entry, { categories: [{ id: 'tides', below: true }], difficulties: [], ...more });

  it('any of the objectives and any of the tags will do, and both must be met', () => {
    expect([within({ objectives: ['o2', 'o9'] }), within({ objectives: ['o9'] })]).toEqual([true, false]);
    expect([within({ tags: ['night'] }), within({ tags: ['day'] })]).toEqual([true, false]);
    expect(within({ objectives: ['o1'], tags: ['day'] })).toBe(false);
    expect(within({ objectives: [], tags: [] })).toBe(true);
  });

  it('a question rests for so many days after it stood on a paper, and one that never did is free', () => {
    expect([within({ restDays: 30 }), within({ restDays: 31 })]).toEqual([true, false]);
    expect(
      inPool(
        { ...entry, daysSinceUse: null },
        { categories: [{ id: 'tides', below: true }], difficulties: [], restDays: 365 },
      ),
    ).toBe(true);
  });

  it('what it comes from adds up: categories, exams and questions picked by hand', () => {
    const rule = { categories: [], difficulties: [] };
    expect(inPool(entry, { ...rule, questions: [entry.questionId] })).toBe(true);
    expect(inPool(entry, { ...rule, exams: ['week1'] })).toBe(false);
    expect(inPool({ ...entry, exams: ['week1'] }, { ...rule, exams: ['week1'] })).toBe(true);
    expect(inPool({ ...entry, passageId: 'text' }, { ...rule, questions: [entry.questionId] })).toBe(false);
  });

  it.each([
    [{ categories: [] }, 'categories'],
    [{ categories: [], exams: [], questions: [] }, 'categories'],
    [{ exams: ['week1'], restDays: 0 }, 'restDays'],
    [{ exams: ['week1'], restDays: 1.5 }, 'restDays'],
    [{ exams: ['week1'], tags: [''] }, 'tags.0'],
  ])('refuses %j', (pool, field) => {
    const parsed = examDesign.safeParse(exampleDesign([from('draw-1', 1, pool)]));
    expect(parsed.error?.issues.map((issue) => issue.path.join('.'))).toEqual([`parts.0.lines.0.pool.${field}`]);
  });
});
