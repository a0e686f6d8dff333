import { describe, expect, it } from 'vitest';
import type { MarkKind } from './marks';
import { isObservation, standsOnPaper, type Unobserved } from './observation';
import { effectOnSitting, gainOf, remarked, type StandingMark } from './remarkingEffect';
import type { RemarkingPolicy } from './remarkingPolicy';

const rules = { tries: null, missedAgain: null, learning: 'by-plan' as const };
const standing = (
  points: number,
  kind: MarkKind = 'automatic',
  unobserved: Unobserved | null = null,
): StandingMark => ({
  points,
  kind,
  unobserved,
});
/** One answer worth 4 points that the old key judged wrong and the new one right. */
const nowRight = [{ old: 0, new: 1, again: false }];
const made = (mark: StandingMark, policy: RemarkingPolicy, judged = nowRight) =>
  remarked(mark, judged, 4, policy, rules);

describe('what a re-mark makes of one answer', () => {
  it('gives what the policy says, and nothing where that is what it has', () => {
    expect(made(standing(0), 'new-key')).toEqual({ kind: 'changed', points: 4, same: false });
    expect(made(standing(4), 'new-key')).toEqual({ kind: 'untouched' });
    expect(made(null, 'new-key')).toEqual({ kind: 'changed', points: 4, same: false });
    expect(made(standing(0), 'left-out')).toEqual({ kind: 'changed', points: null, same: false });
    expect(made(standing(0, 'left-out'), 'left-out')).toEqual({ kind: 'untouched' });
  });

  it('keeps what a person gave', () => {
    for (const kind of ['hand', 'adjusted', 'settled'] as const)
      for (const policy of ['new-key', 'either-key', 'everyone', 'left-out'] as const)
        expect(made(standing(1, kind), policy)).toEqual({ kind: 'kept-by-person' });
  });

  it('says of the same points that everyone earned them, once', () => {
    expect(made(standing(4), 'everyone')).toEqual({ kind: 'changed', points: 4, same: true });
    expect(made(standing(4, 'automatic', 'everyone-earns'), 'everyone')).toEqual({ kind: 'untouched' });
  });

  it('gives nothing to what was not chosen, which only leaves the total with the rest', () => {
    const notChosen = standing(0, 'automatic', 'not-chosen');
    for (const policy of ['new-key', 'either-key', 'everyone'] as const)
      expect(made(notChosen, policy)).toEqual({ kind: 'untouched' });
    expect(made(notChosen, 'left-out')).toEqual({ kind: 'changed', points: null, same: false });
  });

  it('leaves alone what no rule can judge, unless everyone earns it or it leaves the total', () => {
    for (const policy of ['new-key', 'either-key'] as const)
      expect(made(standing(2), policy, [])).toEqual({ kind: 'untouched' });
    expect(made(standing(2), 'everyone', [])).toMatchObject({ points: 4 });
    expect(made(standing(2), 'left-out', [])).toMatchObject({ points: null });
  });
});

describe('what a re-mark does to a sitting', () => {
  const score = (earned: number, possible = 10) => ({ earned, possible });

  it('says whose result changes, the means, and the tenths with full marks in the last', () => {
    const before = new Map([
      ['a', score(5)],
      ['b', score(10)],
      ['c', score(0)],
    ]);
    const after = new Map([
      ['a', score(8)],
      ['b', score(10)],
      ['c', score(0, 8)],
    ]);
    const effect = effectOnSitting(before, after);
    expect(effect.changed.map((one) => one.userId)).toEqual(['a', 'c']);
    expect([effect.results, effect.meanBefore, effect.meanAfter]).toEqual([3, 0.5, 0.6]);
    expect([effect.tenthsBefore[5], effect.tenthsAfter[8], effect.tenthsAfter[9]]).toEqual([1, 1, 1]);
    expect(gainOf({ before: score(5), after: score(8) })).toBeCloseTo(0.3);
  });

  it('is nothing where nobody has a result', () => {
    expect(effectOnSitting(new Map([['a', null]]), new Map([['a', null]]))).toMatchObject({
      results: 0,
      meanBefore: 0,
    });
  });
});

describe('an observation of how hard a question is', () => {
  it('is every mark but what left the total, what everyone earned and what was not chosen', () => {
    expect(isObservation({ kind: 'hand', unobserved: null })).toBe(true);
    expect(isObservation({ kind: 'left-out', unobserved: null })).toBe(false);
    expect(isObservation({ kind: 'automatic', unobserved: 'everyone-earns' })).toBe(false);
    expect(isObservation({ kind: 'automatic', unobserved: 'not-chosen' })).toBe(false);
  });

  it('stands on its paper where it was chosen, also before it is marked', () => {
    expect(standsOnPaper({ kind: null, unobserved: null })).toBe(true);
    expect(standsOnPaper({ kind: 'automatic', unobserved: 'everyone-earns' })).toBe(true);
    expect(standsOnPaper({ kind: 'automatic', unobserved: 'not-chosen' })).toBe(false);
    expect(standsOnPaper({ kind: 'left-out', unobserved: null })).toBe(false);
  });
});
