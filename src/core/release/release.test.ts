import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { day, hour, minute } from '../base/time';
import type { SittingRules } from '../sitting/rules';
import { noFurtherRules } from '../sitting/rules';
import { earliestFacts, heldBack, type LeakTaken, leakKey, leakTaken, type Writing } from './leakCheck';
import {
  type Fact,
  facts,
  keyFacts,
  planInForce,
  type ReleaseEnd,
  type ReleaseMoment,
  type ReleasePlan,
  type ReleaseWindow,
} from './plan';
import { planMoments, planProblems, planSaid, selfPublishSaid } from './planSaid';
import { releasePlanSchema } from './planSchema';
import { presetOf, presets } from './presets';
import { publishingNumbers } from './publishingNumbers';
import { nextChange, opensOnce, type ReleaseFacts, scoreOnPublishing, visibleTo } from './visibleTo';
import { whatComes } from './whatComes';

/** One student: attempts handed in at 100 h and 130 h, done at 130 h, own closing 155 h; all closes at 150 h, over at 160 h. */
const released = (change: Partial<ReleaseFacts> = {}): ReleaseFacts => ({
  attempts: { handedIn: [100 * hour, 130 * hour], doneAt: 130 * hour, closes: 155 * hour },
  audience: { closes: 150 * hour, overAt: 160 * hour },
  publications: [{ publishedAt: 170 * hour, withdrawnAt: 400 * hour }],
  views: {},
  ...change,
});

const withQuestions = (fact: Fact, ...windows: ReleaseWindow[]): ReleasePlan => ({
  questions: [{ begins: { kind: 'at', at: 0 } }],
  [fact]: windows,
});

/** The first and the last hour of [0, 900) at which a fact is shown; null for never. */
function shownFrom(fact: Fact, window: ReleaseWindow, change: Partial<ReleaseFacts> = {}): [number, number] | null {
  const plan = withQuestions(fact, window);
  const hours = Array.from({ length: 900 }, (_, h) => h).filter((h) =>
    visibleTo(plan, released(change), h * hour).has(fact),
  );
  return hours.length ? [hours[0] as number, hours.at(-1) as number] : null;
}

const begins: [ReleaseMoment, first: number][] = [
  [{ kind: 'as-they-go' }, 100],
  [{ kind: 'on-hand-in' }, 100],
  [{ kind: 'after-attempt', number: 1 }, 100],
  [{ kind: 'after-attempt', number: 2 }, 130],
  [{ kind: 'after-last-attempt' }, 130],
  [{ kind: 'over-for-everyone' }, 160],
  [{ kind: 'at', at: 200 * hour }, 200],
  // Two days after the student's own closing, since it is later than everyone's.
  [{ kind: 'after-closing', days: 2 }, 155 + 48],
  [{ kind: 'on-publishing' }, 170],
];

describe('what a student sees', () => {
  const cases = facts.flatMap((fact) => begins.map(([moment, first]) => [fact, moment, first] as const));

  it.each(cases)('%s, %o: from hour %i on', (fact, moment, first) => {
    const last = moment.kind === 'on-publishing' ? 399 : 899;
    expect(shownFrom(fact, { begins: moment })).toEqual([first, last]);
  });

  it.each(facts.map((fact) => [fact] as const))(
    '%s ends at the closing, at a moment, after days, and is never shown without a window',
    (fact) => {
      const window = (ends: ReleaseEnd): ReleaseWindow => ({ begins: { kind: 'on-hand-in' }, ends });
      expect(shownFrom(fact, window({ kind: 'at-closing' }))).toEqual([100, 154]);
      expect(shownFrom(fact, window({ kind: 'at', at: 140 * hour }))).toEqual([100, 139]);
      expect(shownFrom(fact, window({ kind: 'after-days', days: 1 }))).toEqual([100, 123]);
      expect(visibleTo({ [fact]: [] }, released(), 500 * hour).size).toBe(0);
    },
  );

  it.each(facts.map((fact) => [fact] as const))(
    '%s is shown once: for as long as it may after it was opened',
    (fact) => {
      const window: ReleaseWindow = { begins: { kind: 'on-hand-in' }, ends: { kind: 'once', minutes: 30 } };
      const plan = fact === 'questions' ? { questions: [window] } : withQuestions(fact, window);
      const at = (minutes: number, views: ReleaseFacts['views']) =>
        visibleTo(plan, released({ views }), 120 * hour + minutes * minute).has(fact);
      const opened = { [fact]: 120 * hour };
      expect(at(0, {})).toBe(false);
      expect([at(-1, opened), at(0, opened), at(29, opened), at(30, opened)]).toEqual([false, true, true, false]);
      expect(opensOnce(plan, released(), 99 * hour)).toEqual([]);
      expect(opensOnce(plan, released(), 120 * hour)).toEqual([{ fact, for: 30 * minute }]);
      expect(opensOnce(plan, released({ views: opened }), 200 * hour)).toEqual([]);
      // An opening from before the window does not count, and nobody has more than an hour.
      expect(at(0, { [fact]: 90 * hour })).toBe(false);
      const longer = { begins: { kind: 'at' as const, at: 0 }, ends: { kind: 'once' as const, minutes: 600 } };
      expect(opensOnce(withQuestions('comments', longer), released(), 1)).toEqual([{ fact: 'comments', for: hour }]);
    },
  );

  it('waits for what has not happened', () => {
    const none = { attempts: { handedIn: [], doneAt: null, closes: null }, publications: [] };
    for (const [moment] of begins) {
      const window = { begins: moment };
      if (moment.kind === 'at' || moment.kind === 'over-for-everyone' || moment.kind === 'after-closing') continue;
      expect(shownFrom('score', window, none)).toBe(null);
    }
    const endless = { audience: { closes: null, overAt: null } };
    expect(shownFrom('score', { begins: { kind: 'over-for-everyone' } }, endless)).toBe(null);
    expect(shownFrom('score', { begins: { kind: 'after-closing', days: 0 } }, endless)).toBe(null);
  });

  it('takes no preliminary score for a publication', () => {
    const publications = [{ publishedAt: 100 * hour, withdrawnAt: null, preliminary: true }];
    expect(shownFrom('score', { begins: { kind: 'on-publishing' } }, { publications })).toBe(null);
  });

  it('opens again with the next publication, and with another window', () => {
    const publications = [
      { publishedAt: 170 * hour, withdrawnAt: 180 * hour },
      { publishedAt: 200 * hour, withdrawnAt: null },
    ];
    const at = (h: number) => visibleTo(scoreOnPublishing, released({ publications }), h * hour).has('score');
    expect([169, 170, 179, 180, 199, 200].map(at)).toEqual([false, true, true, false, false, true]);
    const two = withQuestions(
      'right-or-wrong',
      { begins: { kind: 'on-hand-in' }, ends: { kind: 'after-days', days: 1 } },
      { begins: { kind: 'over-for-everyone' } },
    );
    const seen = (h: number) => visibleTo(two, released(), h * hour).has('right-or-wrong');
    expect([100, 123, 124, 159, 160].map(seen)).toEqual([true, true, false, false, true]);
  });

  it('holds nothing of single questions without the questions', () => {
    const all = Object.fromEntries(facts.map((fact) => [fact, [{ begins: { kind: 'on-hand-in' as const } }]]));
    expect(visibleTo(all, released(), 200 * hour)).toEqual(new Set(facts));
    expect(visibleTo({ ...all, questions: [] }, released(), 200 * hour)).toEqual(new Set(['score']));
  });

  it('says when it changes next', () => {
    const plan = withQuestions('right-answers', { begins: { kind: 'over-for-everyone' } });
    expect(nextChange(plan, released(), 120 * hour)).toBe(160 * hour);
    expect(nextChange(plan, released(), 160 * hour)).toBe(null);
  });
});

describe('what a student is told of what comes', () => {
  const told = (
    plan: ReleasePlan,
    now: number,
    { held = {}, ...change }: Partial<ReleaseFacts> & { held?: Partial<Record<Fact, number>> } = {},
  ) => {
    const facts = released(change);
    const heldAt = (fact: Fact, at: number) => ((held[fact] ?? 0) > at ? (held[fact] ?? null) : null);
    const visible = visibleTo(plan, facts, now);
    for (const fact of [...visible]) if (heldAt(fact, now) !== null) visible.delete(fact);
    return whatComes({ plan, released: facts, visible, heldAt, now }, 'UTC');
  };
  const at = (hours: number) => ({ kind: 'at' as const, at: hours * hour });
  const handIn = { kind: 'on-hand-in' as const };

  it.each<[string, ReleasePlan, number, Parameters<typeof told>[2], string[]]>([
    [
      'from a moment, until another',
      withQuestions('right-answers', { begins: at(240), ends: at(264) }),
      200,
      {},
      ['The right answers: from Sun 11 Jan 1970, 00:00 until Mon 12 Jan 1970, 00:00.'],
    ],
    [
      'with publishing, which has not come or was taken back',
      {
        score: [{ begins: { kind: 'on-publishing' } }],
        ...withQuestions('comments', { begins: { kind: 'on-publishing' } }),
      },
      450,
      {},
      ['Your score and comments on your answers: when your instructor publishes them.'],
    ],
    [
      'until when what is seen now stays, and nothing of what stays for good',
      {
        ...withQuestions('score', { begins: handIn }),
        feedback: [{ begins: handIn, ends: { kind: 'after-days', days: 9 } }],
      },
      200,
      {},
      ['You see the feedback until Wed 14 Jan 1970, 04:00.'],
    ],
    [
      'what was shown and is over',
      {
        score: [{ begins: handIn, ends: { kind: 'at-closing' } }],
        questions: [{ begins: handIn, ends: { kind: 'at-closing' } }],
      },
      200,
      {},
      ['Your score and the questions: were shown until Wed 7 Jan 1970, 11:00.'],
    ],
    [
      'the later moment for what stands with the questions',
      { questions: [{ begins: at(300) }], 'right-answers': [{ begins: at(250) }] },
      200,
      {},
      ['The questions and the right answers: from Tue 13 Jan 1970, 12:00.'],
    ],
    [
      'nothing of what is never shown, since the questions are not',
      { 'right-answers': [{ begins: at(250) }] },
      200,
      {},
      [],
    ],
    [
      'the end of the writing, where others may still write then',
      withQuestions('right-answers', { begins: at(240) }),
      200,
      { held: { 'right-answers': 288 * hour } },
      ['The right answers: from Tue 13 Jan 1970, 00:00, once nobody can be writing these questions any more.'],
    ],
    [
      'no day where nothing ends the writing of others',
      withQuestions('right-answers', { begins: handIn }),
      200,
      { held: { 'right-answers': Number.POSITIVE_INFINITY } },
      ['The right answers: once nobody can be writing these questions any more.'],
    ],
    [
      'an attempt that is still to come',
      withQuestions('own-answers', { begins: { kind: 'after-attempt', number: 3 } }),
      200,
      {},
      ['Your answers: after your attempt 3.'],
    ],
  ])('%s', (_, plan, now, more, said) => {
    expect(told(plan, now * hour, more)).toEqual(said);
  });

  it('offers nothing to be opened once while the questions it stands with are hidden', () => {
    const once: ReleaseWindow = { begins: handIn, ends: { kind: 'once', minutes: 10 } };
    const hidden: ReleasePlan = { questions: [{ begins: at(300) }], 'right-answers': [once] };
    expect(opensOnce(hidden, released(), 200 * hour)).toEqual([]);
    expect(opensOnce(hidden, released(), 300 * hour)).toEqual([{ fact: 'right-answers', for: 10 * minute }]);
    expect(opensOnce({ ...hidden, questions: [once] }, released(), 200 * hour)).toHaveLength(2);
    expect(told(hidden, 200 * hour)).toEqual(['The questions and the right answers: from Tue 13 Jan 1970, 12:00.']);
  });
});

const someMoment: fc.Arbitrary<ReleaseMoment> = fc.oneof(
  fc.constantFrom<ReleaseMoment>(
    { kind: 'as-they-go' },
    { kind: 'on-hand-in' },
    { kind: 'after-last-attempt' },
    { kind: 'over-for-everyone' },
    { kind: 'on-publishing' },
  ),
  fc.record({ kind: fc.constant('after-attempt' as const), number: fc.integer({ min: 1, max: 3 }) }),
  fc.record({ kind: fc.constant('at' as const), at: fc.integer({ min: 0, max: 900 }).map((h) => h * hour) }),
  fc.record({ kind: fc.constant('after-closing' as const), days: fc.integer({ min: 0, max: 9 }) }),
);
const someEnd: fc.Arbitrary<ReleaseEnd> = fc.oneof(
  fc.constant({ kind: 'at-closing' as const }),
  fc.record({ kind: fc.constant('at' as const), at: fc.integer({ min: 0, max: 900 }).map((h) => h * hour) }),
  fc.record({ kind: fc.constant('after-days' as const), days: fc.integer({ min: 1, max: 9 }) }),
);
const someWindow = fc.record({
  begins: someMoment,
  ends: fc.option(someEnd, { nil: undefined }),
}) as fc.Arbitrary<ReleaseWindow>;
const somePlan = fc.dictionary(
  fc.constantFrom(...facts),
  fc.array(someWindow, { maxLength: 3 }),
) as fc.Arbitrary<ReleasePlan>;

describe('stricter rules', () => {
  it('never show a fact earlier: an end, a later moment, a window less, questions later', () => {
    fc.assert(
      fc.property(
        somePlan,
        fc.constantFrom(...facts),
        someEnd,
        fc.integer({ min: 0, max: 900 }),
        (plan, fact, end, h) => {
          const now = h * hour;
          const windows = plan[fact] ?? [];
          const stricter: ReleasePlan[] = [
            { ...plan, [fact]: windows.slice(1) },
            { ...plan, [fact]: windows.map((one) => ({ ...one, ends: one.ends ?? end })) },
            {
              ...plan,
              [fact]: windows.map((one) =>
                one.begins.kind === 'at' && !one.ends
                  ? { begins: { kind: 'at' as const, at: one.begins.at + hour } }
                  : one,
              ),
            },
            { ...plan, questions: (plan.questions ?? []).slice(1) },
          ];
          const before = visibleTo(plan, released(), now);
          for (const one of stricter)
            for (const seen of visibleTo(one, released(), now)) expect(before).toContain(seen);
        },
      ),
      { numRuns: 500 },
    );
  });

  it('never show what gives keys away while someone may still write, whatever is arranged, unless it was taken on', () => {
    const someWriting: fc.Arbitrary<Writing> = fc.record({
      sittingId: fc.constantFrom('own', 'other', 'third'),
      title: fc.constant('T'),
      shared: fc.integer({ min: 0, max: 3 }),
      latest: fc.oneof(
        fc.integer({ min: 0, max: 900 }).map((h) => h * hour),
        fc.constant(Number.POSITIVE_INFINITY),
      ),
      names: fc.constant([]),
    });
    fc.assert(
      fc.property(
        somePlan,
        fc.array(someWriting, { maxLength: 4 }),
        fc.integer({ min: 0, max: 900 }),
        (plan, writings, h) => {
          const now = h * hour;
          const visible = visibleTo(plan, released(), now);
          const held = heldBack({ sittingId: 'own', meant: false }, visible, writings, [], now);
          const shown = [...visible].filter((fact) => !held.has(fact));
          const writing = writings.some((one) => one.shared > 0 && one.latest > now);
          if (writing) expect(shown.filter((fact) => keyFacts.includes(fact))).toEqual([]);
          else expect(held.size).toBe(0);
          // More time for one, arranged afterwards, shows nobody anything more.
          const longer = writings.map((one, i) => (i === 0 ? { ...one, latest: one.latest + 5 * hour } : one));
          const then = heldBack({ sittingId: 'own', meant: false }, visible, longer, [], now);
          for (const fact of held.keys()) expect(then.has(fact)).toBe(true);
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe('what is held back', () => {
  const writing: Writing = { sittingId: 'other', title: 'Make-up', shared: 2, latest: 50 * hour, names: [] };
  const seen = new Set<Fact>(['score', 'questions', 'right-or-wrong', 'right-answers', 'comments']);
  const held = (taken: LeakTaken[], now = 10 * hour, one = writing, meant = false) => [
    ...heldBack({ sittingId: 'own', meant }, seen, [one], taken, now),
  ];

  it('are right or wrong, right answers and feedback, until nobody writes any more', () => {
    expect(held([])).toEqual([
      ['right-or-wrong', 50 * hour],
      ['right-answers', 50 * hour],
    ]);
    expect(held([], 50 * hour)).toEqual([]);
  });

  it('is what nobody has taken on: by the fact, and not further than it was taken on', () => {
    const early = [{ fact: 'right-or-wrong' as const, from: 0 }];
    const own = leakTaken({ ...writing, early });
    expect(held([own]).map(([fact]) => fact)).toEqual(['right-answers']);
    expect(held([own], 10 * hour, { ...writing, latest: 51 * hour }).map(([fact]) => fact)).toEqual([
      'right-or-wrong',
      'right-answers',
    ]);
    const both = leakTaken({ ...writing, early: [...early, { fact: 'right-answers', from: 0 }] });
    expect(held([both])).toEqual([]);
    // What never ends is taken on for good.
    const endless = { ...writing, latest: Number.POSITIVE_INFINITY };
    expect(held([leakTaken({ ...endless, early })], 10 * hour, endless).map(([fact]) => fact)).toEqual([
      'right-answers',
    ]);
    expect(held([own], 10 * hour, endless)).toHaveLength(2);
    // One that tells more, or reaches further, is another one.
    expect(
      new Set([writing, endless].flatMap((one) => [leakKey({ ...one, early }), leakKey({ ...one, early: [] })])).size,
    ).toBe(4);
    expect(held([leakTaken({ ...writing, sittingId: 'third', early })])).toHaveLength(2);
  });

  it('is nothing towards the practice sitting itself', () => {
    expect(held([], 10 * hour, { ...writing, sittingId: 'own' }, true)).toEqual([]);
    expect(held([], 10 * hour, writing, true)).toHaveLength(2);
  });
});

const rules = (change: Partial<SittingRules> = {}): SittingRules => ({
  ...noFurtherRules,
  opens: 10 * hour,
  lastStart: null,
  due: null,
  closes: 50 * hour,
  timeLimit: null,
  fullTimeOnceStarted: false,
  attemptsAllowed: 2,
  attemptCounts: 'best',
  ...change,
});

describe('the earliest moment at which keys are given away', () => {
  const earliest = (plan: ReleasePlan, change: Partial<SittingRules> = {}) =>
    earliestFacts(plan, rules(change), { opens: 10 * hour, closes: 45 * hour, overAt: 60 * hour });
  const on = (moment: ReleaseMoment) => withQuestions('right-answers', { begins: moment });

  it('is the opening for what waits for a hand-in, the first closing for days after it, and nothing on publishing', () => {
    const from = (moment: ReleaseMoment) => earliest(on(moment)).map((one) => one.from / hour);
    expect(from({ kind: 'on-hand-in' })).toEqual([10]);
    expect(from({ kind: 'after-last-attempt' })).toEqual([10]);
    expect(from({ kind: 'after-closing', days: 1 })).toEqual([45 + 24]);
    expect(from({ kind: 'over-for-everyone' })).toEqual([60]);
    expect(from({ kind: 'at', at: 30 * hour })).toEqual([30]);
    expect(from({ kind: 'on-publishing' })).toEqual([]);
  });

  it('is nothing where the questions are never shown, and right or wrong where questions are checked', () => {
    expect(earliest({ 'right-answers': [{ begins: { kind: 'on-hand-in' } }] })).toEqual([]);
    expect(earliest({}, { learning: 'as-they-go' })).toEqual([{ fact: 'right-or-wrong', from: 10 * hour }]);
    expect(earliest({}, { learning: 'on-hand-in' })).toEqual([{ fact: 'right-or-wrong', from: 10 * hour }]);
    expect(earliest({}, { tries: { most: 2, cost: 0 } })).toHaveLength(1);
    expect(earliest({})).toEqual([]);
  });
});

describe('a plan in words', () => {
  it('joins facts that are shown alike, and says what is never shown', () => {
    expect(planSaid({}, 'UTC')).toEqual(['Students are shown nothing.']);
    expect(planSaid(presets.find((one) => one.key === 'after-all')?.plan ?? {}, 'UTC')).toEqual([
      'Score: on publishing.',
      'The questions, own answers, right or wrong, by question, right answers, feedback and solution and comments and rubric: when it is over for everyone.',
    ]);
    const twice: ReleasePlan = {
      score: [
        { begins: { kind: 'on-hand-in' }, ends: { kind: 'at-closing' } },
        { begins: { kind: 'after-closing', days: 2 }, ends: { kind: 'once', minutes: 20 } },
      ],
    };
    expect(planSaid(twice, 'UTC')[0]).toBe(
      'Score: on hand-in, until the closing; again 2 days after the closing, once, for 20 min.',
    );
  });

  it('has presets of which each is itself and is taken by the server', () => {
    for (const preset of presets) {
      expect(presetOf(preset.plan)).toBe(preset);
      expect(releasePlanSchema.safeParse(preset.plan).success).toBe(true);
    }
    expect(presetOf({ score: [{ begins: { kind: 'at', at: 1 } }] })).toBe(null);
    expect(releasePlanSchema.safeParse({ score: [{ begins: { kind: 'never' } }] }).success).toBe(false);
    expect(
      releasePlanSchema.safeParse({ score: [{ begins: { kind: 'at', at: 1 }, ends: { kind: 'once', minutes: 61 } }] })
        .success,
    ).toBe(false);
  });

  it('says what is wrong with it, each at its fact', () => {
    const problems = (plan: ReleasePlan, change: Partial<SittingRules> = {}) =>
      planProblems(plan, rules(change), 'UTC').map((one) => `${one.kind} ${one.fact}`);
    for (const preset of presets) expect(problems(preset.plan)).toEqual([]);
    const score = (window: ReleaseWindow) => ({ score: [window] });
    expect(problems(score({ begins: { kind: 'over-for-everyone' } }), { closes: null })).toEqual(['error score']);
    expect(problems(score({ begins: { kind: 'after-closing', days: 1 } }), { closes: null })).toEqual(['error score']);
    expect(problems(score({ begins: { kind: 'after-attempt', number: 3 } }))).toEqual(['error score']);
    expect(problems(score({ begins: { kind: 'after-attempt', number: 3 } }), { attemptsAllowed: null })).toEqual([]);
    expect(problems(score({ begins: { kind: 'at', at: 5 }, ends: { kind: 'at', at: 5 } }))).toEqual(['error score']);
    expect(problems(score({ begins: { kind: 'over-for-everyone' }, ends: { kind: 'at-closing' } }))).toEqual([
      'error score',
    ]);
    expect(problems({ comments: [{ begins: { kind: 'on-publishing' } }] })).toEqual(['warning comments']);
  });

  it('stands on the timeline where it lies on the calendar', () => {
    const plan = presets.find((one) => one.key === 'after-all')?.plan ?? {};
    expect(planMoments(plan, { closes: 50 * hour }, 60 * hour)).toEqual([
      { at: 60 * hour, label: 'questions and 5 more shown' },
    ]);
    const score: ReleasePlan = {
      score: [{ begins: { kind: 'after-closing', days: 1 }, ends: { kind: 'at', at: 9 * day } }],
    };
    expect(planMoments(score, { closes: 2 * day }, null)).toEqual([
      { at: 3 * day, label: 'score' },
      { at: 9 * day, label: 'score hidden' },
    ]);
  });

  it('holds what students learn by the rules of the sitting', () => {
    expect(planInForce({}, 'by-plan')).toEqual({});
    expect([...visibleTo(planInForce({}, 'on-hand-in'), released(), 100 * hour)]).toEqual([
      'score',
      'questions',
      'own-answers',
      'right-or-wrong',
    ]);
  });

  it('says how results publish themselves', () => {
    expect(selfPublishSaid({ kind: 'each', notBefore: null }, 'UTC')).toBe(
      'Each result publishes itself as soon as it is completely marked.',
    );
    expect(selfPublishSaid({ kind: 'all', notBefore: 0 }, 'UTC')).toContain('not before Thu 1 Jan 1970, 00:00');
  });
});

describe('the numbers of publishing', () => {
  it('hold everyone once, whatever stands in the rows', () => {
    const row = fc.record({
      state: fc.constantFrom('not-started', 'running', 'handed-in', 'excused'),
      result: fc.option(fc.record({ ready: fc.boolean() })),
      published: fc.constantFrom(null, {}),
      changed: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(row), (rows) => {
        const { changed, published, ...each } = publishingNumbers(rows);
        expect(Object.values(each).reduce((sum, n) => sum + n, 0)).toBe(rows.length);
        expect(published).toBe(rows.filter((one) => one.published).length);
        expect(changed).toBeLessThanOrEqual(each.ready);
      }),
    );
  });
});
