// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { ok } from '@/core/base/result';
import { day, hour } from '@/core/base/time';
import { termLine } from '@/core/sitting/termLine';
import type { Desk as DeskToday } from '@/server/desk/desk';
import { Desk } from './Desk';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

const now = Date.UTC(2026, 2, 2, 9);
const empty: DeskToday = {
  role: 'instructor',
  timeZone: 'UTC',
  now,
  open: [],
  closingSoon: [],
  decisions: [],
  line: null,
  remarks: [],
  next: null,
  replies: [],
  coming: [],
  drafts: [],
  marking: [],
  looks: [],
  readyToPublish: [],
  changedSince: [],
  unsaved: [],
  notes: 0,
};
const rest = { base: '/c/1', giveUpDraft: async () => ok(null) };
const words = (desk: DeskToday) =>
  renderToStaticMarkup(<Desk {...rest} desk={desk} />)
    .replace(/<[^>]+>/g, '|')
    .replace(/\|+/g, '|');
const sitting = {
  id: 's',
  title: 'Quiz',
  phase: 'open' as const,
  isRound: false,
  opens: now,
  students: 28,
  running: 1,
  handedIn: 9,
};

describe('the desk', () => {
  it('on the first days says the one step that is next, and nothing of it later', () => {
    const next = (step: DeskToday['next']) =>
      [
        ...renderToStaticMarkup(<Desk {...rest} desk={{ ...empty, next: step }} />).matchAll(/href="\/c\/1\/(\w+)"/g),
      ].map((match) => match[1]);
    expect(next('people')).toEqual(['done', 'people']);
    expect(next('banks')).toEqual(['done', 'banks']);
    expect(next('exams')).toEqual(['done', 'exams']);
    expect(next('sittings')).toEqual(['done', 'exams']);
    expect(next(null)).toEqual(['done', 'rounds']);
  });

  it('tells of colleagues’ remarks, and leads to them', () => {
    const remarks = [{ examId: 'e', title: 'Final', count: 2, by: 'Petra', text: 'Question 3 has two right answers.' }];
    const desk = { ...empty, remarks };
    expect(words(desk)).toContain('open remarks|Final|Petra: Question 3 has two right answers.|');
    expect(renderToStaticMarkup(<Desk {...rest} desk={desk} />)).toContain('/c/1/exams/e/look');
  });

  it('tells a marker, a guest and whoever has nothing to do what stands there for them', async () => {
    const said = async (role: DeskToday['role'], text: RegExp) => {
      const shown = render(<Desk {...rest} desk={{ ...empty, role }} />);
      expect(await screen.findByText(text)).toBeTruthy();
      shown.unmount();
    };
    await said('marker', /assigned to you for marking/);
    await said('guest', /without names/);
    await said('instructor', /Nothing needs you now/);
  });

  it('does not say that nothing is to be done while something is, or a question is unfinished', async () => {
    const unsaved = [{ bankId: 'b', subject: 'q', savedAt: now, title: 'The question N' }];
    render(<Desk {...rest} desk={{ ...empty, unsaved }} />);
    expect(await screen.findByText('1 thing unfinished')).toBeTruthy();
    expect(screen.queryByText(/Nothing needs you/)).toBeNull();
  });

  it('begins with the term on one line, each sitting with all its moments and the way to it', () => {
    const line = termLine(
      { firstDay: '2026-02-02', freeDays: [{ from: '2026-02-23', to: '2026-03-01', name: 'Winter week' }] },
      [
        { id: 'q', title: 'Quiz', opens: now - day, due: now + hour, closes: now + day, results: now + 3 * day },
        { id: 'r', title: 'Reading', opens: null, due: null, closes: now - 5 * day, results: null },
      ],
      'UTC',
      now,
    );
    render(<Desk {...rest} desk={{ ...empty, line }} />);
    const quiz = screen.getByRole('link', { name: /^Quiz/ });
    expect(quiz.getAttribute('href')).toBe('/c/1/sittings/q');
    expect(quiz.getAttribute('aria-label')).toBe(
      'Quiz: opened Sun 1 Mar 2026, 09:00, due Mon 2 Mar 2026, 10:00, closes Tue 3 Mar 2026, 09:00, results from Thu 5 Mar 2026, 09:00',
    );
    expect(screen.getByRole('link', { name: 'Reading: closed Wed 25 Feb 2026, 09:00' })).toBeTruthy();
    expect(screen.getByText('week 4')).toBeTruthy();
    expect(screen.getByText(/no teaching: Winter week/)).toBeTruthy();
  });

  it('counts in words, each number apart from its word', () => {
    const said = words({ ...empty, open: [{ ...sitting, closes: now + 7 * day + hour }], notes: 1 });
    expect(said).toContain('|1|');
    expect(said).toContain('is writing');
    expect(said).toContain('closes in 7 days 1 h');
    expect(said).toContain('thing');
    expect(words({ ...empty, open: [{ ...sitting, closes: null, running: 2 }] })).toContain('are writing');
  });

  it('says what waits for a decision, and leads to the room', () => {
    const decisions = [
      {
        sittingId: 's',
        title: 'Quiz',
        count: 3,
        says: '2 answers kept aside, of 1 student; 1 incident',
        path: '/sittings/s/room',
      },
    ];
    expect(words({ ...empty, decisions })).toContain('decisions|Quiz|2 answers kept aside, of 1 student; 1 incident|');
    expect(renderToStaticMarkup(<Desk {...rest} desk={{ ...empty, decisions }} />)).toContain('/c/1/sittings/s/room');
  });
});
