import type { Instant } from '../base/time';
import { type Fact, facts, type ReleasePlan, type ReleaseWindow, type SelfPublish } from './plan';

function mapped(plan: ReleasePlan, each: (window: ReleaseWindow) => ReleaseWindow[]): ReleasePlan {
  const made: ReleasePlan = {};
  for (const fact of facts) {
    const windows = (plan[fact] ?? []).flatMap(each);
    if (windows.length) made[fact] = windows;
  }
  return made;
}

/** A plan whose moments on the calendar are moved, for a sitting that is given again. */
export const planLater = (plan: ReleasePlan, later: (at: Instant) => Instant): ReleasePlan =>
  mapped(plan, ({ begins, ends }) => [
    {
      begins: begins.kind === 'at' ? { ...begins, at: later(begins.at) } : begins,
      ...(ends ? { ends: ends.kind === 'at' ? { ...ends, at: later(ends.at) } : ends } : {}),
    },
  ]);

/** What of a plan can hold for every sitting of an exam: windows without a moment on the calendar. */
export const lastingPlan = (plan: ReleasePlan): ReleasePlan =>
  mapped(plan, (window) => (window.begins.kind === 'at' || window.ends?.kind === 'at' ? [] : [window]));

/** Whether two plans show the same, whatever the order in which they were written down. */
export const samePlan = (a: ReleasePlan, b: ReleasePlan): boolean => {
  const said = (plan: ReleasePlan) => JSON.stringify(facts.map((fact: Fact) => (plan[fact] ?? []).map(key)));
  return said(a) === said(b);
};

const key = ({ begins, ends }: ReleaseWindow) => [
  Object.entries(begins).sort(),
  ends ? Object.entries(ends).sort() : null,
];

/** How results publish themselves, with its moment moved. */
export const selfLater = (self: SelfPublish | null, later: (at: Instant) => Instant): SelfPublish | null =>
  self && { ...self, notBefore: self.notBefore === null ? null : later(self.notBefore) };
