import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { richFromText } from '../base/rich';
import { blankDesign } from '../exam/design';
import type { QuestionContent } from '../question/content';
import { definitions } from '../question/definitions';
import type { Presentation } from '../question/presentation';
import { present } from '../question/score';
import { forStudent, readResponse } from '../question/student';
import { questionTypes } from '../question/types';
import {
  answerSaid,
  creditGiven,
  fitForWall,
  type Given,
  movedBetween,
  questionBars,
  rightSaid,
  withoutKey,
} from './bars';
import { groupsOf, mostMissed } from './groups';
import { awayFor, handsetKinds, handsetName, kindOfHandset, madeUpAnswer } from './handsets';
import { nameFit, proposeMatches } from './matchNames';
import {
  designInRound,
  furtherOfRound,
  planOfRound,
  roundLearnings,
  roundPaces,
  rulesThatHold,
  usualRound,
} from './roundRules';
import { roundSaid } from './roundSaid';

const choice: QuestionContent = {
  type: 'single-choice',
  stem: richFromText('Which?'),
  shuffle: true,
  feedback: {},
  choices: ['port', 'starboard', 'neither'].map((text, i) => ({
    id: `c${i}`,
    content: richFromText(text),
    right: i === 1,
    pinned: false,
  })),
};
const number: QuestionContent = {
  type: 'numeric',
  stem: richFromText('How many?'),
  feedback: {},
  accepted: [{ value: '12', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
};
/** Papers that show the choices in different orders, under different keys. */
const straight: Presentation = { choices: ['c0', 'c1', 'c2'].map((id) => ({ key: `s${id}`, id })) };
const turned: Presentation = { choices: ['c2', 'c0', 'c1'].map((id) => ({ key: `t${id}`, id })) };

const picks = (presentation: Presentation, id: string | null): Given => ({
  presentation,
  value: id === null ? null : { picked: presentation.choices?.find((one) => one.id === id)?.key },
});

describe('bars', () => {
  it('count choices by what they are, whatever their place and key on a paper', () => {
    const given = [picks(straight, 'c0'), picks(turned, 'c0'), picks(turned, 'c1'), picks(straight, null)];
    const bars = questionBars(choice, straight, given);
    expect([bars.asked, bars.answered, bars.others]).toEqual([4, 3, 0]);
    expect(bars.bars.map(({ label, count, outcome }) => [label, count, outcome])).toEqual([
      ['A', 2, 'wrong'],
      ['B', 1, 'right'],
      ['C', 0, 'wrong'],
    ]);
  });

  it('count words that differ in capitals only as one, the most frequent first, and of many the first eight', () => {
    const texts = ['12', '13', '12', ' 13 ', '14', ...Array.from({ length: 9 }, (_, i) => String(20 + i))];
    const bars = questionBars(
      number,
      {},
      [...texts, ''].map((text) => ({ presentation: {}, value: { text } })),
    );
    expect(bars.bars.slice(0, 2).map(({ text, count, outcome }) => [text, count, outcome])).toEqual([
      ['12', 2, 'right'],
      ['13', 2, 'wrong'],
    ]);
    expect(bars.bars).toHaveLength(8);
    expect([bars.asked, bars.answered, bars.others]).toEqual([15, 14, 4]);
  });

  it('sum to who answered, for every question where one answer is given', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('c0', 'c1', 'c2', null)), (ids) => {
        const bars = questionBars(
          choice,
          straight,
          ids.map((id, i) => picks(i % 2 ? turned : straight, id)),
        );
        expect(bars.bars.reduce((sum, bar) => sum + bar.count, 0)).toBe(bars.answered);
      }),
    );
  });

  it('say nothing of the key where it may not be known, and nothing on a wall that one person alone wrote', () => {
    const bars = questionBars(
      number,
      {},
      ['12', '12', 'my own words'].map((text) => ({ presentation: {}, value: { text } })),
    );
    expect(withoutKey(bars).bars.map((bar) => bar.outcome)).toEqual([null, null]);
    expect(fitForWall(bars)).toMatchObject({ bars: [{ text: '12' }], others: 1 });
    // Choices are nobody's words: each keeps its bar.
    expect(fitForWall(questionBars(choice, straight, [picks(straight, 'c2')])).bars).toHaveLength(3);
  });

  it('judge nothing without a key', () => {
    const keyless: QuestionContent = { ...choice, choices: choice.choices.map((one) => ({ ...one, right: false })) };
    expect(questionBars(keyless, straight, [picks(straight, 'c0')]).bars.map((bar) => bar.outcome)).toEqual([
      null,
      null,
      null,
    ]);
    expect(creditGiven(keyless, picks(straight, 'c0'))).toBeNull();
    expect(rightSaid(keyless, straight)).toBe('');
    expect(creditGiven({ ...number, accepted: [] }, { presentation: {}, value: { text: '1' } })).toBeNull();
  });

  it('say who moved, in numbers, of those who answered both times', () => {
    const pair = (first: string | null, second: string | null, on = straight) => ({
      presentation: on,
      first: picks(on, first).value,
      second: picks(on, second).value,
    });
    const moved = movedBetween(choice, [
      pair('c0', 'c1'),
      pair('c0', 'c1', turned),
      pair('c2', 'c0'),
      pair('c1', 'c1'),
      pair('c0', null),
      pair(null, 'c1'),
    ]);
    expect(moved).toEqual({
      stayed: 1,
      moved: [
        { from: 'A', to: 'B', count: 2 },
        { from: 'C', to: 'A', count: 1 },
      ],
    });
  });

  it('call an answer by its letter, and what is right by letter and words', () => {
    expect(answerSaid(choice, picks(turned, 'c2'))).toBe('C');
    expect(answerSaid(choice, picks(turned, null))).toBe('');
    expect(rightSaid(choice, turned)).toBe('B: starboard');
    expect(rightSaid(number, {})).toBe('12');
  });
});

describe('groups', () => {
  const person = (userId: string, percent: number, objectives: Record<string, number> = {}) => ({
    userId,
    percent,
    objectives: new Map(Object.entries(objectives)),
  });
  const six = [90, 10, 50, 30, 70, 20].map((percent) => person(`p${percent}`, percent));

  it('put those alike together, or deal them forth and back', () => {
    expect(groupsOf(six, 2, 'result', 'alike').map((one) => one.members)).toEqual([
      ['p10', 'p20'],
      ['p30', 'p50'],
      ['p70', 'p90'],
    ]);
    // Dealt: 10 20 30 | 90 70 50 read backwards.
    expect(groupsOf(six, 2, 'result', 'mixed').map((one) => one.members)).toEqual([
      ['p10', 'p90'],
      ['p20', 'p70'],
      ['p30', 'p50'],
    ]);
  });

  it('stand by what was missed most, and say so where all of a group missed the same', () => {
    const people = [
      person('a', 40, { tides: 0, lights: 1 }),
      person('b', 60, { tides: 1, lights: 0.5 }),
      person('c', 80, { tides: 0.5, lights: 1 }),
      person('d', 20, { tides: 1, lights: 0 }),
    ];
    expect(people.map(mostMissed)).toEqual(['tides', 'lights', 'tides', 'lights']);
    expect(groupsOf(people, 2, 'objective', 'alike')).toEqual([
      { members: ['d', 'b'], objective: 'lights' },
      { members: ['a', 'c'], objective: 'tides' },
    ]);
    expect(mostMissed(person('e', 100, { tides: 1 }))).toBeNull();
  });

  it('hold everybody once, in ⌈n ÷ size⌉ groups that differ by one at most', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 400 }), { maxLength: 60 }),
        fc.integer({ min: 1, max: 12 }),
        fc.constantFrom('result' as const, 'objective' as const),
        fc.constantFrom('alike' as const, 'mixed' as const),
        (ids, size, by, kind) => {
          const people = ids.map((id) => person(`p${id}`, id % 101, { a: (id % 3) / 2, b: (id % 5) / 4 }));
          const groups = groupsOf(people, size, by, kind);
          const sizes = groups.map((one) => one.members.length);
          expect(groups.flatMap((one) => one.members).sort()).toEqual(people.map((one) => one.userId).sort());
          expect(groups).toHaveLength(Math.ceil(ids.length / size));
          if (sizes.length) expect(Math.max(...sizes) - Math.min(...sizes)).toBeLessThanOrEqual(1);
          expect(Math.max(0, ...sizes)).toBeLessThanOrEqual(size);
        },
      ),
    );
  });
});

describe('typed names', () => {
  const roster = ['Mia Lind', 'Zoë van Dijk', 'Samir Haddad', 'Samira Haddad', 'Li Wei'].map((name, i) => ({
    userId: `u${i}`,
    name,
  }));

  it.each([
    ['Mia Lind', 'Mia Lind', 3],
    ['lind mia', 'Mia Lind', 3],
    ['ZOE VAN DIJK', 'Zoë van Dijk', 3],
    ['Mia', 'Mia Lind', 2],
    ['Mia L', 'Mia Lind', 1],
    ['Haddda Samir', 'Samir Haddad', 1],
    ['Bo', 'Mia Lind', 0],
    ['', 'Mia Lind', 0],
    ['Lee Wai', 'Li Wei', 0],
  ])('%s fits %s by %i', (typed, name, fit) => {
    expect(nameFit(typed, name)).toBe(fit);
  });

  it('are proposed where one person alone is meant, and never twice', () => {
    const proposals = proposeMatches(
      ['mia lind', 'Mia', 'Samir', 'Haddad', 'Nobody'].map((typed, i) => ({ guestId: `g${i}`, typed })),
      roster,
    );
    expect(proposals.map((one) => one.proposed)).toEqual(['u0', null, 'u2', null, null]);
    expect(proposals[3]?.candidates.map((one) => one.userId)).toEqual(['u2', 'u3']);
    expect(proposeMatches([{ guestId: 'g', typed: 'Mia Lind' }], roster, new Set(['u0']))[0]?.proposed).toBeNull();
    const two = proposeMatches(
      [
        { guestId: 'g1', typed: 'Mia Lind' },
        { guestId: 'g2', typed: 'Lind, Mia' },
      ],
      roster,
    );
    expect(two.map((one) => one.proposed)).toEqual([null, null]);
  });
});

describe('rules of a round', () => {
  it('show what is right to nobody before the stop, and the score only where it is to be seen', () => {
    for (const pace of roundPaces)
      for (const learning of roundLearnings)
        for (const score of [true, false]) {
          const plan = planOfRound({ ...usualRound, pace, learning, score });
          expect(Boolean(plan.score)).toBe(score);
          expect(Boolean(plan['right-answers'])).toBe(learning !== 'never');
          for (const fact of ['right-answers', 'feedback'] as const)
            for (const window of plan[fact] ?? []) expect(window.begins.kind).toBe('over-for-everyone');
          const soon = pace === 'own' && (learning === 'each' || learning === 'last');
          if (plan['right-or-wrong'])
            expect(plan['right-or-wrong'][0]?.begins.kind).toBe(soon ? 'on-hand-in' : 'over-for-everyone');
        }
    expect(furtherOfRound({ ...usualRound, pace: 'own', learning: 'each' }).tries).toEqual({ most: 1, cost: 0 });
    expect(furtherOfRound({ ...usualRound, pace: 'led', learning: 'each' }).tries).toBeNull();
  });

  it('let no choice stand that another one rules out', () => {
    const own = { ...usualRound, pace: 'own' as const, onward: true, shuffledQuestions: true, shuffledChoices: true };
    expect(rulesThatHold({ ...own, seconds: 30 })).toMatchObject({
      onward: true,
      shuffledChoices: true,
      seconds: null,
    });
    expect(rulesThatHold({ ...own, pace: 'led', seconds: 30 })).toMatchObject({
      onward: false,
      shuffledQuestions: false,
      shuffledChoices: false,
      seconds: 30,
    });
    expect(rulesThatHold({ ...usualRound, comingIn: 'nameless', counts: 'score' }).counts).toBe('no');
  });

  it('lay an exam out in one order for all where it is led', () => {
    const design = { ...blankDesign('p'), parts: [{ ...blankDesign('p').parts[0], order: 'shuffled' }] } as ReturnType<
      typeof blankDesign
    >;
    const led = designInRound(design, { ...usualRound, pace: 'led', shuffledQuestions: true, shuffledChoices: true });
    expect([led.choices, led.parts[0]?.order]).toEqual(['as-written', 'as-written']);
    const own = designInRound(design, { pace: 'own', shuffledQuestions: true, shuffledChoices: true });
    expect([own.choices, own.parts[0]?.order]).toEqual([undefined, 'shuffled']);
  });

  it('are said as sentences', () => {
    expect(roundSaid({ ...usualRound, seconds: 30 })).toEqual([
      'Led, one question after the other, 30 s each.',
      'People come in by typing a name.',
      'They learn whether they were right as you show it.',
      'They see their own score.',
      'It does not count.',
    ]);
    expect(roundSaid({ ...usualRound, pace: 'own', onward: true, learning: 'never', score: false })).toEqual([
      'Everybody at their own pace, onward only.',
      'People come in by typing a name.',
      'They do not learn whether they were right.',
      'They do not see a score.',
      'It does not count.',
    ]);
  });
});

describe('made-up handsets', () => {
  it('answer every type with something that is an answer to it', () => {
    for (const type of questionTypes) {
      const content = definitions[type].example as QuestionContent;
      const view = forStudent(content, present(content, seededRandom('paper')));
      for (let n = 0; n < 12; n++) {
        const made = madeUpAnswer(kindOfHandset(n), handsetName(n), view, 1);
        if (made) expect(readResponse(type, made.value), `${type} ${n}`).toEqual(made.value);
      }
    }
  });

  it('agree more when they are asked again, and do the same every time', () => {
    const view = forStudent(choice, straight);
    const answers = (vote: number) =>
      Array.from({ length: 240 }, (_, n) => JSON.stringify(madeUpAnswer('able', handsetName(n), view, vote)?.value));
    const most = (vote: number) => {
      const counts = new Map<string, number>();
      for (const one of answers(vote)) counts.set(one, (counts.get(one) ?? 0) + 1);
      return Math.max(...counts.values());
    };
    expect(most(2)).toBeGreaterThan(most(1));
    expect(answers(1)).toEqual(answers(1));
    expect(new Set(Array.from({ length: 12 }, (_, n) => kindOfHandset(n))).size).toBe(handsetKinds.length);
  });

  it('leave only where that is what they are', () => {
    const away = (kind: (typeof handsetKinds)[number]) =>
      Array.from({ length: 30 }, (_, n) => awayFor(kind, seededRandom(String(n)))).filter((one) => one !== null);
    expect(away('able')).toEqual([]);
    expect(away('leaving').length).toBeGreaterThan(0);
  });
});
