import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { minute } from '../base/time';
import { phases } from './attemptMachine';
import {
  type Aside,
  asideInShort,
  asideSaid,
  type StandingFacts,
  standingLater,
  standingOf,
  standingSaid,
  waitsForDecision,
} from './standing';

const facts = (more: Partial<StandingFacts> = {}): StandingFacts => ({
  state: 'running',
  deadline: 10 * minute,
  handInUntil: 10 * minute,
  endedAt: null,
  endedBy: null,
  reopened: false,
  ...more,
});

describe('how an attempt stands', () => {
  it('runs until its deadline; then it waits to be handed in, by its student where there is a grace', () => {
    const kinds = (more: Partial<StandingFacts>, ...at: number[]) =>
      at.map((now) => standingOf(facts(more), now * minute).kind);
    expect(kinds({}, 0, 9.99, 10, 11)).toEqual(['running', 'running', 'time-over', 'time-over']);
    expect(kinds({ handInUntil: 12 * minute }, 9.99, 10, 12, 12.05, 12.06)).toEqual([
      'running',
      'grace',
      'grace',
      'grace',
      'time-over',
    ]);
    expect(kinds({ deadline: null, handInUntil: null }, 1e6)).toEqual(['running']);
  });

  it('is told by one who hears nothing as by the server', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...phases),
        fc.option(fc.nat(100), { nil: null }),
        fc.nat(20),
        fc.nat(200),
        fc.nat(200),
        fc.boolean(),
        (state, deadline, grace, heardAt, later, reopened) => {
          const known = facts({
            state,
            deadline: deadline === null ? null : deadline * minute,
            handInUntil: deadline === null ? null : (deadline + grace) * minute,
            endedAt: state === 'running' ? null : 5 * minute,
            endedBy: state === 'running' ? null : 'student',
            reopened: state === 'running' && reopened,
          });
          const heard = standingOf(known, heardAt * minute);
          const now = Math.max(heardAt, later) * minute;
          // What is over stays over, but for somebody's word.
          if (heard.kind === 'time-over') expect(standingLater(heard, now)).toEqual(heard);
          else if (heard.kind === 'grace') expect(standingLater(heard, now).kind).toBe(standingOf(known, now).kind);
          else expect(standingLater(heard, now)).toEqual(standingOf(known, now));
        },
      ),
    );
  });

  it('is said in words for everyone: what happened, what was kept, what to do next', () => {
    const said = (standing: Parameters<typeof standingSaid>[0]) =>
      standingSaid(standing, 'UTC', { answered: 3, questions: 8 });
    for (const by of ['student', 'page', 'clock', 'invigilator'] as const)
      expect(said({ kind: 'handed-in', at: 0, by })).toMatchObject({
        title: 'Handed in',
        kept: '3 of 8 questions answered.',
      });
    expect(said({ kind: 'handed-in', at: 0, by: 'page' }).happened).toBe(
      'The time was over, and the open page handed it in.',
    );
    expect(said({ kind: 'grace', deadline: 0, handInUntil: 2 * minute }).next).toBe(
      'Your answers count only if you hand in until Thu 1 Jan 1970, 00:02 (UTC).',
    );
    expect(said({ kind: 'voided', at: 0 }).kept).toBe('3 of 8 questions answered. Your answers are kept.');
    const reopened = { kind: 'running', deadline: minute, handInUntil: minute, reopened: true } as const;
    expect(said(reopened).title).toBe('Opened again');
    expect(standingSaid({ kind: 'not-handed-in', at: 0 }, 'UTC', null).kept).toBe(
      'They are kept, and do not count as it stands.',
    );
  });
});

describe('an answer kept aside', () => {
  const aside = (more: Partial<Aside> = {}): Aside => ({
    number: 4,
    reason: 'late',
    receivedAt: 11 * minute,
    givenAt: 9 * minute,
    inTime: true,
    decision: null,
    ...more,
  });

  it('is told with its question, when it came, why it was not taken, and what becomes of it', () => {
    expect(asideSaid(aside(), 'UTC')).toBe(
      'Question 4: an answer came Thu 1 Jan 1970, 00:11, after the end; it was given Thu 1 Jan 1970, 00:09, in time. It is kept, and your instructor decides whether it counts.',
    );
    expect(asideSaid(aside({ inTime: false, decision: 'left', reason: 'superseded' }), 'UTC')).toBe(
      'Question 4: an answer came Thu 1 Jan 1970, 00:11, from a window that another had replaced. It does not count.',
    );
    expect(asideSaid(aside({ decision: 'taken' }), 'UTC')).toMatch(/It has been counted after all\.$/);
    expect(asideSaid(aside({ reason: 'beyond-choose' }), 'UTC')).toMatch(/It is kept, and does not count\.$/);
  });

  it('waits for a person unless a rule of the exam decided it', () => {
    const reasons = ['superseded', 'late', 'question-over', 'behind', 'closed', 'beyond-choose'] as const;
    expect(reasons.filter((reason) => waitsForDecision({ reason, decision: null }))).toEqual([
      'superseded',
      'late',
      'question-over',
      'behind',
    ]);
    expect(waitsForDecision({ reason: 'late', decision: 'left' })).toBe(false);
    expect(asideInShort([aside(), aside({ reason: 'closed' }), aside({ decision: 'taken' })])).toBe(
      '1 answer of yours is kept aside: your instructor decides about it.',
    );
    expect(asideInShort([aside({ reason: 'closed' })])).toBe('');
  });
});
