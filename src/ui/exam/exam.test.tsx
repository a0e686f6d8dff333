// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { ExamDesign, ExamLine, ExamPart, PoolRule } from '@/core/exam/design';
import { planCheck } from '@/core/exam/planCheck';
import { snapshotOf } from '@/core/exam/snapshot';
import { exampleDesign, exampleDraw, exampleEntry } from '@/core/testing/exampleExam';
import { HardnessFields } from './HardnessFields';
import { PartSheet } from './PartSheet';
import { PlanDrag } from './PlanDrag';
import { whyNotGiven } from './PlanHead';
import { NarrowPiece, PoolPieces, poolSaid, type Sources } from './PoolPieces';
import { SpreadTable } from './SpreadTable';

const sources: Sources = {
  categories: [
    { id: 'tides', name: 'Tides' },
    { id: 'lights', name: 'Lights' },
    { id: 'fog', name: 'Fog' },
    { id: 'ropes', name: 'Ropes' },
  ],
  exams: [{ id: 'week1', title: 'Week 1' }],
  objectives: [{ id: 'o1', code: 'N1', wording: 'finds the depth' }],
  tags: ['night'],
  choosable: [
    { id: 'q1', name: 'Isophase', type: 'single-choice', category: 'Lights' },
    { id: 'q2', name: 'Neaps', type: 'numeric', category: 'Tides' },
  ],
};
const pool = (more: Partial<PoolRule> = {}): PoolRule => ({
  categories: [{ id: 'tides', below: true }],
  difficulties: [],
  ...more,
});

function Host({ tell }: { tell: (rule: PoolRule) => void }) {
  const [rule, setRule] = useState(pool());
  tell(rule);
  return (
    <>
      <PoolPieces pool={rule} sources={sources} onChange={setRule} />
      <NarrowPiece pool={rule} sources={sources} onChange={setRule} />
    </>
  );
}

const bank = snapshotOf(
  Array.from({ length: 20 }, (_, n) =>
    exampleEntry(n, [n < 10 ? 'tides' : 'lights'], {
      difficulty: n % 2 ? 'easy' : 'hard',
      expected: n / 25,
      objectives: n < 5 ? ['o1'] : [],
    }),
  ),
);
const lines: ExamLine[] = [
  { ...exampleDraw('line-1', 3, ['tides']), points: 2 },
  { ...exampleDraw('line-2', 2, ['lights']), points: 2 },
];
const names = new Map(sources.categories.map((one) => [one.id, one.name]));

type Shown = typeof SpreadTable | typeof HardnessFields;

function Plan({ Shown, tell }: { Shown: Shown; tell: (design: ExamDesign) => void }) {
  const [design, setDesign] = useState(exampleDesign(lines));
  tell(design);
  const check = planCheck(design, bank, names);
  return <Shown design={design} check={check} sources={sources} mayChange onChange={setDesign} />;
}

describe('an exam', () => {
  it('is given while its draws are short, and not while one finds nothing at all', () => {
    const why = (some: ExamLine[]) => {
      const design = exampleDesign(some);
      return whyNotGiven(design, planCheck(design, bank, names));
    };
    expect(why(lines)).toBeNull();
    expect(why([exampleDraw('line-1', 19, ['tides'])])).toBeNull();
    expect(why([...lines, exampleDraw('line-3', 1, ['ropes'])])).toMatch(/finds no question at all/);
    expect(why([])).toMatch(/no questions yet/);
    // The design of an off-screen exam comes to the page without its items.
    const offScreen = { ...exampleDesign([]), offScreen: {} };
    const check = (questions: number) => whyNotGiven(offScreen, { poolSizes: {}, questions });
    expect([check(0), check(7)]).toEqual(['The exam has no questions yet.', null]);
  });
});

describe('what a pool says', () => {
  it.each([
    [pool(), 'Tides'],
    [
      pool({ categories: [{ id: 'tides', below: false }], difficulties: ['easy', 'hard'] }),
      'Tides alone, easy or hard',
    ],
    [
      pool({ exams: ['week1'], questions: ['q1'], tags: ['night'], objectives: ['o1'] }),
      'Tides, the questions of Week 1 or 1 picked question, objective N1, tagged night',
    ],
    [pool({ categories: [], questions: ['q1', 'q2'], restDays: 120 }), '2 picked questions, not used for 120 days'],
    [pool({ categories: sources.categories.map(({ id }) => ({ id, below: true })) }), 'Tides, Lights or 2 more'],
    [pool({ categories: [{ id: 'gone', below: true }] }), 'a category that is gone'],
    [pool({ success: { from: 30, to: 60 }, types: ['numeric'] }), 'Tides, numeric, success 30 to 60 %'],
  ])('%j', (rule, text) => {
    expect(poolSaid(rule, sources)).toBe(text);
  });

  it('is changed piece by piece', async () => {
    let now = pool();
    const tell = (rule: PoolRule) => {
      now = rule;
    };
    render(<Host tell={tell} />);
    const user = userEvent.setup();
    await user.click(screen.getByRole('button', { name: 'Where from: Tides' }));
    await user.click(await screen.findByLabelText('with everything below it'));
    await user.click(screen.getByLabelText('Week 1'));
    await user.type(screen.getByLabelText('Find a question to pick'), 'iso');
    await user.click(screen.getByLabelText(/Isophase/));
    expect(now).toMatchObject({ categories: [{ id: 'tides', below: false }], exams: ['week1'], questions: ['q1'] });
    await user.click(screen.getByRole('button', { name: 'Leave out Isophase' }));
    expect(now.questions).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'Done' }));
    await user.click(screen.getByRole('button', { name: 'Narrow the pool by other properties' }));
    await user.type(await screen.findByLabelText(/Leave out questions used/), '90');
    expect(now.restDays).toBe(90);
    await user.type(screen.getByLabelText(/Leave out questions used/), '0000');
    expect(now.restDays).toBe(900);
    expect(document.body.textContent).toContain('Whole days, from 1 to 3650.');
  });
});

describe('beside the plan', () => {
  function plan(Shown: Shown) {
    let now: ExamDesign = exampleDesign(lines);
    const tell = (design: ExamDesign) => {
      now = design;
    };
    render(<Plan Shown={Shown} tell={tell} />);
    return { user: userEvent.setup(), now: () => now };
  }
  it('the spread of points leads to its lines and carries targets', async () => {
    const { user, now } = plan(SpreadTable);
    const rows = () => screen.getAllByRole('row').map((row) => row.textContent);
    expect(rows()[1]).toContain('Tides3');
    expect(rows()[1]).toContain('60 %');
    await user.click(screen.getByRole('button', { name: 'Tides, easy: 3 points' }));
    expect((await screen.findByRole('link')).getAttribute('href')).toBe('#line-line-1');
    await user.keyboard('{Escape}');
    await user.click(screen.getByRole('button', { name: 'Set the target of Tides' }));
    await user.type(await screen.findByLabelText(/Share of the points/), '30{Enter}');
    expect(now().targets).toEqual([{ of: 'category', id: 'tides', percent: 30 }]);
    expect(rows()[1]).toContain('30 % 30 too many');
    await user.click(screen.getByLabelText('by objective'));
    expect([rows()[1]?.startsWith('N1 finds the depth'), rows()[2]?.startsWith('no objective')]).toEqual([true, true]);
    expect(rows()).toHaveLength(3);
  });

  it('equal hardness is switched on with its distance, which must make sense', async () => {
    const { user, now } = plan(HardnessFields);
    expect(document.body.textContent).toMatch(/Expected score about [\d.]+ of 100/);
    await user.click(screen.getByLabelText('Equally hard papers'));
    expect(now().equalHardness).toEqual({ within: 2 });
    const field = screen.getByLabelText('Allowed difference in points of 100');
    await user.clear(field);
    await user.type(field, '60');
    expect(document.body.textContent).toContain('A number from 0.1 to 50.');
    expect(now().equalHardness).toEqual({ within: 6 });
    await user.click(screen.getByLabelText('Equally hard papers'));
    expect(now().equalHardness).toBeUndefined();
  });
});

function PartHost({ tell }: { tell: (part: ExamPart) => void }) {
  const [design, setDesign] = useState(exampleDesign(lines));
  const [part] = design.parts;
  if (!part) return null;
  tell(part);
  return (
    <PlanDrag design={design} onChange={setDesign}>
      <PartSheet
        design={design}
        part={part}
        number={1}
        fixed={{}}
        sources={sources}
        check={planCheck(design, bank, names)}
        problems={[]}
        mayChange
        writing="/"
        onChange={(next) => setDesign({ ...design, parts: [next] })}
        onRemove={null}
        onMove={() => undefined}
        onMoveLine={() => undefined}
        makeId={() => 'made-here'}
        countPool={async () => ({ ok: true, value: { holds: 1 } })}
      />
    </PlanDrag>
  );
}

describe('the lines of a part', () => {
  it('keep what was changed in one another: a line that was not drawn anew still acts on the part as it is', async () => {
    let part: ExamPart | null = null;
    render(
      <PartHost
        tell={(next) => {
          part = next;
        }}
      />,
    );
    const user = userEvent.setup();
    const setCount = async (at: number, count: string) => {
      await user.click(screen.getAllByRole('button', { name: /^How many to draw/ })[at] as HTMLElement);
      await user.clear(await screen.findByLabelText('How many questions'));
      await user.type(screen.getByLabelText('How many questions'), `${count}{Enter}`);
    };
    await setCount(0, '7');
    await setCount(1, '4');
    const counts = () => part?.lines.map((line) => (line.kind === 'draw' ? line.count : 0));
    expect(counts()).toEqual([7, 4]);
    await user.click(screen.getByRole('button', { name: 'Remove line 1.1' }));
    expect(counts()).toEqual([4]);
    await setCount(0, '9');
    expect(counts()).toEqual([9]);
  });
});
