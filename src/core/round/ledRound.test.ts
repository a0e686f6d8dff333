import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  afterLedAct,
  beganLed,
  type LedAct,
  type LedPhase,
  type LedRound,
  ledPhaseNow,
  openNow,
  stopAllowance,
  type WhyNotAct,
  whyNotAct,
  whyNotVote,
} from './ledRound';

const open = (question: number, limit: number | null = null): LedAct => ({ kind: 'open', question, limit });
const again = (question: number, limit: number | null = null): LedAct => ({ kind: 'open-again', question, limit });
const close = (question: number): LedAct => ({ kind: 'close', question });
const show = (question: number): LedAct => ({ kind: 'show', question });
const stop: LedAct = { kind: 'stop' };

/** A round of three questions after some acts, one each second from 0. */
const played = (...acts: LedAct[]): LedRound =>
  acts.reduce((round, act, i) => afterLedAct(round, act, i * 1_000), beganLed(3));
const phasesAt = (round: LedRound, now: number) => round.questions.map((question) => ledPhaseNow(question, now));

describe('a led round', () => {
  const states: Record<LedPhase | 'closed twice' | 'another is open' | 'stopped', LedRound> = {
    ahead: played(),
    open: played(open(0)),
    closed: played(open(0), close(0)),
    shown: played(open(0), close(0), show(0)),
    'closed twice': played(open(0), close(0), again(0), close(0)),
    'another is open': played(open(0), close(0), open(1)),
    stopped: played(open(0), close(0), stop),
  };
  /** What each act does to the first question in each state: its phase after it, or why it cannot be done. */
  const table: Record<keyof typeof states, Record<'open' | 'open-again' | 'close' | 'show', LedPhase | WhyNotAct>> = {
    ahead: { open: 'open', 'open-again': 'not-closed', close: 'not-open', show: 'not-closed' },
    open: { open: 'opened-already', 'open-again': 'not-closed', close: 'closed', show: 'not-closed' },
    closed: { open: 'opened-already', 'open-again': 'open', close: 'closed', show: 'shown' },
    shown: { open: 'opened-already', 'open-again': 'not-closed', close: 'not-open', show: 'shown' },
    'closed twice': { open: 'opened-already', 'open-again': 'asked-often-enough', close: 'closed', show: 'shown' },
    'another is open': { open: 'opened-already', 'open-again': 'another-is-open', close: 'closed', show: 'shown' },
    stopped: { open: 'stopped', 'open-again': 'stopped', close: 'stopped', show: 'shown' },
  };
  const acts = { open: open(0), 'open-again': again(0), close: close(0), show: show(0) };

  it.each(
    Object.entries(table).flatMap(([state, row]) =>
      Object.entries(row).map(([act, comes]) => [state, act, comes] as const),
    ),
  )('%s: %s comes to %s', (state, act, comes) => {
    const round = states[state as keyof typeof states];
    const does = acts[act as keyof typeof acts];
    const why = whyNotAct(round, does, 10_000);
    if (why !== null) {
      expect(why).toBe(comes);
      expect(() => afterLedAct(round, does, 10_000)).toThrow(RangeError);
    } else expect(phasesAt(afterLedAct(round, does, 10_000), 10_000)[0]).toBe(comes);
  });

  it('knows no question that it does not have', () => {
    for (const question of [-1, 3, 0.5]) expect(whyNotAct(played(), open(question), 0)).toBe('no-such-question');
  });

  it('closes a question by itself when its time is over, at that very moment', () => {
    const round = afterLedAct(beganLed(2), open(0, 30_000), 1_000);
    expect([phasesAt(round, 30_999)[0], phasesAt(round, 31_000)[0]]).toEqual(['open', 'closed']);
    expect([openNow(round, 30_999), openNow(round, 31_000)]).toEqual([0, null]);
    // Closing it then is no error, and does not make it longer.
    expect(afterLedAct(round, close(0), 40_000).questions[0]).toMatchObject({ phase: 'closed', endsAt: 31_000 });
    // Sooner than its time it ends when it is closed.
    expect(afterLedAct(round, close(0), 5_000).questions[0]).toMatchObject({ phase: 'closed', endsAt: 5_000 });
    expect(whyNotAct(round, open(1), 30_999)).toBe('another-is-open');
    expect(whyNotAct(round, open(1), 31_000)).toBeNull();
  });

  it('does what is asked for twice once', () => {
    const closed = afterLedAct(played(open(0)), close(0), 5_000);
    expect(afterLedAct(closed, close(0), 6_000)).toEqual(closed);
    const shown = afterLedAct(closed, show(0), 7_000);
    expect(afterLedAct(shown, show(0), 8_000)).toEqual(shown);
    const stopped = afterLedAct(played(open(0)), stop, 5_000);
    expect(afterLedAct(stopped, stop, 9_000)).toBe(stopped);
  });
});

describe('answers in a led round', () => {
  it('are taken for the open question, in its vote, by when they arrive', () => {
    const round = afterLedAct(beganLed(2), open(0, 30_000), 0);
    expect(whyNotVote(round, 0, 1, 29_999)).toBeNull();
    expect(whyNotVote(round, 0, 1, 30_000)).toBe('closed');
    expect(whyNotVote(round, 1, 1, 1_000)).toBe('not-opened');
    expect(whyNotVote(round, 0, 2, 1_000)).toBe('not-opened');
    expect(whyNotVote(round, 7, 1, 1_000)).toBe('not-opened');
    const asked = played(open(0), close(0), again(0));
    expect([whyNotVote(asked, 0, 1, 5_000), whyNotVote(asked, 0, 2, 5_000)]).toEqual(['other-vote', null]);
  });

  it('that were on their way when the round was stopped are taken for three seconds, of what was open then', () => {
    const round = afterLedAct(played(open(0), close(0), open(1)), stop, 10_000);
    expect(whyNotVote(round, 1, 1, 10_000 + stopAllowance)).toBeNull();
    expect(whyNotVote(round, 1, 1, 10_001 + stopAllowance)).toBe('stopped');
    // What was closed before is seen by then.
    expect(whyNotVote(round, 0, 1, 10_001)).toBe('closed');
    // What is right is shown: nothing more is taken, whatever was on its way.
    expect(whyNotVote(afterLedAct(round, show(1), 10_500), 1, 1, 10_600)).toBe('closed');
    // A time that ran out before the stop has ended.
    const ran = afterLedAct(afterLedAct(beganLed(1), open(0, 5_000), 0), stop, 10_000);
    expect(whyNotVote(ran, 0, 1, 10_001)).toBe('closed');
  });

  it('are taken for one question at most at any moment, and never for what is shown', () => {
    const act = fc.oneof(
      fc.record({
        kind: fc.constantFrom('open' as const, 'open-again' as const),
        question: fc.nat(3),
        limit: fc.constantFrom(null, 1_500, 4_000),
      }),
      fc.record({ kind: fc.constantFrom('close' as const, 'show' as const), question: fc.nat(3) }),
      fc.constant(stop),
    );
    fc.assert(
      fc.property(fc.array(fc.record({ act, wait: fc.nat(3_000) }), { maxLength: 30 }), (steps) => {
        let round = beganLed(4);
        let now = 0;
        for (const { act: next, wait } of steps) {
          now += wait;
          const before = round;
          if (whyNotAct(round, next, now) === null) round = afterLedAct(round, next, now);
          else expect(() => afterLedAct(before, next, now)).toThrow();
          const taken = round.questions.flatMap((question, i) =>
            [1, 2, 3].filter((vote) => whyNotVote(round, i, vote, now) === null).map((vote) => ({ i, vote, question })),
          );
          expect(taken.length).toBeLessThanOrEqual(1);
          for (const one of taken) {
            expect(one.question.phase).not.toBe('shown');
            expect(one.vote).toBe(one.question.vote);
          }
          // Votes are counted up, never down, and to two at most.
          for (const [i, question] of round.questions.entries()) {
            expect(question.vote).toBeGreaterThanOrEqual(before.questions[i]?.vote ?? 0);
            expect(question.vote).toBeLessThanOrEqual(2);
            expect(question.openedAt === null).toBe(question.vote === 0);
          }
        }
      }),
    );
  });
});
