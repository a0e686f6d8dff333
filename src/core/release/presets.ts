import { type Fact, facts, type ReleasePlan, type ReleaseWindow } from './plan';
import { samePlan } from './planShift';

/** A plan under a name of plain words. */
type Preset = { key: string; name: string; plan: ReleasePlan };

const window = (kind: 'on-hand-in' | 'over-for-everyone' | 'on-publishing' | 'after-last-attempt'): ReleaseWindow => ({
  begins: { kind },
});

function plan(...pairs: [facts: readonly Fact[], window: ReleaseWindow][]): ReleasePlan {
  const made: ReleasePlan = {};
  for (const [some, one] of pairs) for (const fact of some) made[fact] = [one];
  return made;
}

const rest = facts.filter((fact) => fact !== 'score');
const published = window('on-publishing');

/** The plans an instructor most often means. Each can be changed piece by piece afterwards. */
export const presets: readonly Preset[] = [
  { key: 'score', name: 'The score on publishing, nothing else', plan: plan([['score'], published]) },
  {
    key: 'missed',
    name: 'On publishing, the score and which questions were right, without right answers',
    plan: plan([['score', 'questions', 'own-answers', 'right-or-wrong', 'comments'], published]),
  },
  { key: 'all', name: 'Everything on publishing', plan: plan([facts, published]) },
  {
    key: 'after-all',
    name: 'The score on publishing, everything else once it is over for everyone',
    plan: plan([['score'], published], [rest, window('over-for-everyone')]),
  },
  {
    key: 'study',
    name: 'To study and try again: right or wrong on hand-in, right answers after the last attempt',
    plan: plan(
      [['score', 'questions', 'own-answers', 'right-or-wrong'], window('on-hand-in')],
      [['right-answers', 'feedback'], window('after-last-attempt')],
      [['comments'], published],
    ),
  },
  { key: 'practice', name: 'Practice: everything on hand-in', plan: plan([facts, window('on-hand-in')]) },
  {
    key: 'one-look',
    name: 'The score on publishing, and one look of 30 minutes at the paper',
    plan: plan(
      [['score'], published],
      [rest, { begins: { kind: 'on-publishing' }, ends: { kind: 'once', minutes: 30 } }],
    ),
  },
  { key: 'nothing', name: 'Nothing is shown', plan: {} },
];

/** The preset a plan is, word for word; null where it is nobody's but its own. */
export const presetOf = (given: ReleasePlan): Preset | null =>
  presets.find((preset) => samePlan(preset.plan, given)) ?? null;
