import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { minute, second } from '../base/time';
import { attemptDeadline, hasExpired } from '../sitting/clock';
import { noArrangement, noFurtherRules, type SittingRules } from '../sitting/rules';
import { saveAllowance } from '../sitting/saveAllowance';
import {
  type Action,
  actions,
  addedOnReopening,
  type Phase,
  phaseAfter,
  phases,
  plausiblyGiven,
  saveFate,
} from './attemptMachine';

describe('when an answer was given', () => {
  it('is believed from the beginning of its attempt to the moment it arrived, give or take a minute', () => {
    const [began, came] = [10 * minute, 70 * minute];
    const said = [null, 0, began - 1, began, came - 1, came + minute, came + minute + 1];
    expect(said.map((one) => plausiblyGiven(one, began, came))).toEqual([
      null,
      null,
      null,
      began,
      came - 1,
      came,
      null,
    ]);
  });
});

describe('what can be done with an attempt', () => {
  it('is exactly this, phase by phase', () => {
    const allowed = (phase: Phase) =>
      actions.flatMap((action) => {
        const to = phaseAfter(phase, action, 'running');
        return to === null ? [] : [`${action} → ${to}`];
      });
    expect(Object.fromEntries(phases.map((phase) => [phase, allowed(phase)]))).toEqual({
      running: [
        'open → running',
        'save → running',
        'check → running',
        'hand-in → handed-in',
        'hand-in-for → handed-in',
        'run-out → handed-in',
        'run-out-of-grace → not-handed-in',
        'add-time → running',
        'void → voided',
      ],
      'handed-in': ['hand-in → handed-in', 'reopen → running', 'void → voided'],
      'not-handed-in': ['hand-in-for → handed-in', 'reopen → running', 'void → voided'],
      voided: ['restore → running'],
    });
  });

  it('a voided attempt comes back to where it was', () => {
    for (const before of phases) expect(phaseAfter('voided', 'restore', before)).toBe(before);
  });
});

it('opening again gives back the time it was closed, and what is given besides', () => {
  // 20 of 60 minutes were left at the hand-in; ten minutes later 20 + 5 are left.
  const startedAt = 0;
  const endedAt = 40 * minute;
  const now = 50 * minute;
  const rules = { ...anyRules(60), closes: null };
  const added = addedOnReopening(0, endedAt, 5 * minute, now);
  expect((attemptDeadline(rules, noArrangement, startedAt, added) ?? 0) - now).toBe(25 * minute);
});

function anyRules(limitMinutes: number): SittingRules {
  return {
    ...noFurtherRules,
    opens: 0,
    lastStart: null,
    due: null,
    closes: 1_000 * minute,
    timeLimit: limitMinutes * minute,
    fullTimeOnceStarted: false,
    attemptsAllowed: 1,
    attemptCounts: 'best',
  };
}

/** Everything that happens between one student, a few browsers, an invigilator and the clock, as one run of events. */
type Step =
  | { kind: 'open' }
  | { kind: 'type'; browser: number; slot: number }
  | { kind: 'send'; browser: number; nth: number; again: boolean }
  | { kind: 'hand-in' | 'hand-in-for' | 'sweep' | 'void' | 'restore' }
  | { kind: 'add-time' | 'reopen'; minutes: number }
  | { kind: 'pass'; seconds: number };

const anyStep: fc.Arbitrary<Step> = fc.oneof(
  { weight: 3, arbitrary: fc.constant<Step>({ kind: 'open' }) },
  { weight: 8, arbitrary: fc.record({ kind: fc.constant('type' as const), browser: fc.nat(3), slot: fc.nat(2) }) },
  {
    weight: 8,
    arbitrary: fc.record({
      kind: fc.constant('send' as const),
      browser: fc.nat(3),
      nth: fc.nat(5),
      again: fc.boolean(),
    }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      kind: fc.constantFrom('hand-in' as const, 'hand-in-for' as const, 'sweep' as const, 'void' as const, 'restore'),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constantFrom('add-time' as const, 'reopen'),
      minutes: fc.integer({ min: 1, max: 10 }),
    }),
  },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('pass' as const), seconds: fc.nat(900) }) },
);

type Save = { slot: number; epoch: number; sequence: number; value: string };

/** The attempt as the machine keeps it, and browsers with everything they ever sent. */
function play(steps: readonly Step[], rules: SittingRules) {
  let now = 0;
  let phase = 'running' as Phase;
  let before: Phase | null = null;
  let added = 0;
  let endedAt: number | null = null;
  let epoch = 0;
  const stored = new Map<number, Save>();
  const aside: Save[] = [];
  const acknowledged: Save[] = [];
  const browsers: { epoch: number; sequence: number; unsent: Save[]; sent: Save[] }[] = [];
  const storedAt: { at: number; deadline: number | null; byNewest: boolean }[] = [];
  const deadline = () => attemptDeadline(rules, noArrangement, 0, added);
  const act = (action: Action): boolean => {
    const to = phaseAfter(phase, action, before);
    if (to === null) return false;
    if (action === 'void') before = phase;
    phase = to;
    return true;
  };
  const sweep = () => {
    if (phase !== 'running' || !hasExpired(rules, deadline(), now)) return;
    endedAt = deadline();
    act(rules.expiry.kind === 'grace' ? 'run-out-of-grace' : 'run-out');
  };
  const deliver = (save: Save) => {
    sweep();
    const own = stored.get(save.slot);
    const fate = saveFate({ phase, deadline: deadline(), epoch }, own ?? null, save, now);
    if (fate === 'store') {
      stored.set(save.slot, save);
      storedAt.push({ at: now, deadline: deadline(), byNewest: save.epoch === epoch });
    } else if (fate !== 'answered') aside.push(save);
    if (fate === 'store' || fate === 'answered') acknowledged.push(save);
  };
  for (const step of steps) {
    if (step.kind === 'pass') now += step.seconds * second;
    else if (step.kind === 'open') {
      sweep();
      if (act('open')) browsers.push({ epoch: ++epoch, sequence: 0, unsent: [], sent: [] });
    } else if (step.kind === 'type' || step.kind === 'send') {
      const browser = browsers[step.browser % Math.max(1, browsers.length)];
      if (!browser) continue;
      if (step.kind === 'type') {
        browser.sequence += 1;
        const { epoch: own, sequence } = browser;
        browser.unsent.push({ slot: step.slot, epoch: own, sequence, value: `${own}.${sequence}` });
        continue;
      }
      const from = step.again ? browser.sent : browser.unsent;
      const [save] = from.splice(step.nth % Math.max(1, from.length), 1);
      if (!save) continue;
      browser.sent.push(save);
      deliver(save);
    } else if (step.kind === 'sweep') sweep();
    else if (step.kind === 'add-time') {
      sweep();
      if (act('add-time')) added += step.minutes * minute;
    } else if (step.kind === 'reopen') {
      if (phaseAfter(phase, 'reopen') === null) continue;
      added = addedOnReopening(added, endedAt ?? now, step.minutes * minute, now);
      act('reopen');
    } else {
      sweep();
      const wasRunning = phase === 'running';
      if (act(step.kind) && wasRunning && phase === 'handed-in') endedAt = Math.min(now, deadline() ?? now);
    }
  }
  return { phase, stored, aside, acknowledged, browsers, storedAt, endedAt, deadline: deadline() };
}

describe('whatever happens in whatever order', () => {
  const anyRun = fc.record({ steps: fc.array(anyStep, { maxLength: 60 }), grace: fc.boolean() });
  const played = ({ steps, grace }: { steps: Step[]; grace: boolean }) =>
    play(steps, { ...anyRules(20), expiry: grace ? { kind: 'grace', minutes: 2 } : { kind: 'hand-in' } });

  it('an acknowledged answer is stored, or a later one of its slot is', () => {
    fc.assert(
      fc.property(anyRun, (run) => {
        const { acknowledged, stored } = played(run);
        for (const save of acknowledged) {
          const kept = stored.get(save.slot);
          expect(kept).toBeDefined();
          const later =
            kept && (kept.epoch > save.epoch || (kept.epoch === save.epoch && kept.sequence >= save.sequence));
          expect(later).toBe(true);
        }
      }),
      { numRuns: 2_000, seed: 6 },
    );
  });

  it('everything that ever arrived is stored, overtaken by its own browser, or kept aside', () => {
    fc.assert(
      fc.property(anyRun, (run) => {
        const { browsers, stored, aside, acknowledged } = played(run);
        const kept = [...stored.values(), ...aside, ...acknowledged].map(({ value }) => value);
        for (const { sent } of browsers) for (const save of sent) expect(kept).toContain(save.value);
      }),
      { numRuns: 2_000, seed: 7 },
    );
  });

  it('nothing is stored beyond the deadline of its moment, and nothing by a browser that was superseded', () => {
    fc.assert(
      fc.property(anyRun, (run) => {
        for (const { at, deadline, byNewest } of played(run).storedAt) {
          expect(at).toBeLessThanOrEqual((deadline ?? at) + saveAllowance);
          expect(byNewest).toBe(true);
        }
      }),
      { numRuns: 2_000, seed: 8 },
    );
  });

  it('an attempt that ended is never stamped after its deadline', () => {
    fc.assert(
      fc.property(anyRun, (run) => {
        const { phase, endedAt, deadline } = played(run);
        if (phase === 'handed-in' || phase === 'not-handed-in')
          expect(endedAt).toBeLessThanOrEqual(deadline ?? Number.POSITIVE_INFINITY);
      }),
      { numRuns: 2_000, seed: 9 },
    );
  });
});
