import { expect, it } from 'vitest';
import { day } from '../base/time';
import type { ReleaseMoment, ReleasePlan } from './plan';
import { planForStudent } from './planForStudent';

const at = (...moments: ReleaseMoment[]) => moments.map((begins) => ({ begins }));
const said = (plan: ReleasePlan, handedIn = false) => planForStudent(plan, 'UTC', handedIn);

it('a plan tells its student what they see, and when, in words about themselves', () => {
  expect(said({ score: at({ kind: 'on-publishing' }) })).toEqual([
    'You see your score when your instructor publishes it.',
  ]);
  const both = { score: at({ kind: 'on-publishing' }, { kind: 'on-hand-in' }) };
  expect(said(both)).toEqual([
    'You see a preliminary score as soon as you hand in, and the final one when your instructor publishes it.',
  ]);
  expect(said(both, true)).toEqual([
    'You see a preliminary score now, and the final one when your instructor publishes it.',
  ]);
  const shown = {
    score: at({ kind: 'on-hand-in' }),
    questions: at({ kind: 'on-hand-in' }),
    'own-answers': at({ kind: 'on-hand-in' }),
  } as const;
  expect(said(shown, true)).toEqual(['You can see your score, the questions and your answers now.']);
  expect(
    said({
      questions: at({ kind: 'on-publishing' }),
      'right-answers': at({ kind: 'on-publishing' }),
      feedback: [{ begins: { kind: 'after-closing', days: 2 }, ends: { kind: 'once', minutes: 30 } }],
      comments: at({ kind: 'at', at: day }),
    }),
  ).toEqual([
    'You see the questions and the right answers when your instructor publishes them.',
    'You see the feedback 2 days after it has closed, once for 30 min.',
    'You see comments on your answers from Fri 2 Jan 1970, 00:00.',
  ]);
  expect(said({})).toEqual(['You are shown nothing of it afterwards.']);
});
