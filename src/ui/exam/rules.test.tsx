// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import type { ExamDesign, ExamLine, ExamPart } from '@/core/exam/design';
import { exampleDesign, exampleDraw } from '@/core/testing/exampleExam';
import { ChoosePieces } from './ChoosePieces';
import { LineOptions } from './LineOptions';
import { LookPieces } from './LookPieces';

const user = userEvent.setup();
const press = (name: RegExp) => user.click(screen.getByRole('button', { name }));
const option = async (says: RegExp) => user.click(await screen.findByRole('radio', { name: says }));

let design: ExamDesign;
function Look({ mayChange = true }: { mayChange?: boolean }) {
  const [now, set] = useState(exampleDesign([exampleDraw('line-1', 2, ['tides'])]));
  design = now;
  return <LookPieces design={now} shuffle={{ withChoices: 5, allowing: 4 }} mayChange={mayChange} onChange={set} />;
}

let part: ExamPart;
const essays: ExamLine[] = [
  { ...exampleDraw('line-1', 3, ['tides']), points: 4 },
  { ...exampleDraw('line-2', 2, ['lights']), points: 1, required: true },
];
function Choose() {
  const [now, set] = useState<ExamPart>({ id: 'part', title: 'Essays', order: 'as-written', lines: essays });
  part = now;
  return <ChoosePieces part={now} mayChange onChange={set} />;
}

function Options({ tell }: { tell: (line: ExamLine) => void }) {
  const [line, set] = useState<ExamLine>(exampleDraw('line-1', 2, ['tides']));
  const change = (next: ExamLine) => {
    tell(next);
    set(next);
  };
  return <LineOptions line={line} number="1.1" noRequired={null} breaks={false} onChange={change} />;
}

describe('what an exam is for and how it looks', () => {
  it('is three separate settings, of which impossible ones say why', async () => {
    render(<Look />);
    await press(/^Whose answers they are/);
    await option(/are anonymous/);
    expect(design.purpose).toEqual({ scored: true, counts: 'no', anonymous: true });
    await press(/^How it counts/);
    const byScore = await screen.findByRole('radio', { name: /by its score/ });
    expect(byScore.matches(':disabled')).toBe(true);
    expect(screen.getByText('Nobody knows whose score it would be.')).toBeTruthy();
    await option(/in full for taking part/);
    await press(/^Whether it is scored/);
    await option(/is not scored/);
    expect(design.purpose).toEqual({ scored: false, counts: 'taking-part', anonymous: true });
  });

  it('sets pages, order, labels and usual rules, and says which level decides on shuffling', async () => {
    render(<Look />);
    expect(screen.getByText(/4 of 5 with choices allow shuffling/)).toBeTruthy();
    await press(/^Pages/);
    await option(/with a new page where you put one/);
    await press(/^Order of choices/);
    await option(/never shuffled/);
    await press(/^Labels of choices/);
    await option(/^k, l, m/);
    expect(screen.getByText(/The exam decides: no choices are shuffled/)).toBeTruthy();
    await press(/^Usual time limit/);
    await option(/a time limit in minutes/);
    await press(/^Usual minutes/);
    const minutes = await screen.findByLabelText('Minutes');
    await user.clear(minutes);
    await user.type(minutes, '45');
    await user.keyboard('{Enter}');
    await press(/^Usual attempts/);
    await option(/as many attempts as wanted/);
    await press(/^Which attempt counts/);
    await option(/the last counts/);
    expect(design).toMatchObject({
      pages: 'breaks',
      choices: 'as-written',
      labels: 'k',
      usual: { timeLimitMinutes: 45, attemptsAllowed: null, attemptCounts: 'last' },
    });
  });

  it('is only said to those who may not change it', () => {
    render(<Look mayChange={false} />);
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.getByText(/counts in the gradebook by its score/)).toBeTruthy();
  });
});

describe('a choose-part', () => {
  it('is made in its sentence, with equal points, and says its total', async () => {
    render(<Choose />);
    await press(/^How many are answered/);
    await option(/any k of them/);
    expect(part.choose).toEqual({ count: 2, extra: 'best' });
    expect(part.lines.map((line) => [line.points, line.required])).toEqual([
      [4, undefined],
      [4, undefined],
    ]);
    expect(screen.getByText(/2 × 4 = 8 points/)).toBeTruthy();
    await press(/^How many the student answers/);
    const count = await screen.findByLabelText('How many the student answers');
    await user.clear(count);
    await user.type(count, '3');
    await user.keyboard('{Enter}');
    await press(/^Answers beyond that/);
    await option(/one has to be cleared first/);
    expect(part.choose).toEqual({ count: 3, extra: 'refused' });
    await press(/^How many are answered/);
    await option(/all of them/);
    expect(part.choose).toBeUndefined();
  });
});

describe('the further rules of a line', () => {
  it('are set in one small editor; a time out of range is refused at its field and not taken over', async () => {
    const change = vi.fn();
    render(<Options tell={change} />);
    await press(/further rules of line 1.1/);
    const form = (await screen.findByLabelText(/Minutes of its own/)).closest('form') as HTMLElement;
    await user.click(within(form).getByRole('checkbox', { name: /Has to be answered/ }));
    await user.click(within(form).getByRole('checkbox', { name: /A new page begins here/ }));
    await user.type(within(form).getByLabelText(/Minutes of its own/), '1,5');
    expect(change.mock.lastCall?.[0]).toMatchObject({ required: true, newPage: true, minutes: 1.5 });
    const calls = change.mock.calls.length;
    await user.clear(within(form).getByLabelText(/Minutes of its own/));
    await user.type(within(form).getByLabelText(/Minutes of its own/), '0');
    expect(within(form).getByText('From 0.25 to 600 minutes.')).toBeTruthy();
    expect(change.mock.calls.slice(calls).every(([line]) => line.minutes === undefined)).toBe(true);
    expect(screen.getByRole('button', { name: /has to be answered: further rules/ })).toBeTruthy();
  });

  it('cannot require a question of a choose-part, and say why', async () => {
    render(
      <LineOptions
        line={exampleDraw('line-1', 2, ['tides'])}
        number="1.1"
        noRequired="A choose-part leaves the choice to the student."
        breaks
        onChange={() => undefined}
      />,
    );
    await press(/further rules/);
    expect((await screen.findByRole('checkbox', { name: /Has to be answered/ })).matches(':disabled')).toBe(true);
  });
});
