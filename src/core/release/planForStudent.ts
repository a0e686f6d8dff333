import { durationText, minute, momentText } from '../base/time';
import { counted } from '../base/words';
import { type Fact, facts, type ReleaseEnd, type ReleaseMoment, type ReleasePlan, type ReleaseWindow } from './plan';
import { inARow } from './planSaid';

/** What each fact is to the student whose it is. */
export const yours: Record<Fact, string> = {
  score: 'your score',
  questions: 'the questions',
  'own-answers': 'your answers',
  'right-or-wrong': 'what you had right and wrong',
  'right-answers': 'the right answers',
  feedback: 'the feedback',
  comments: 'comments on your answers',
};

/**
 * When something begins to be shown, in words for a student.
 *
 * @param handedIn whether this student has handed in, so that what is shown on hand-in is shown now
 */
export function momentSaid(moment: ReleaseMoment, zone: string, handedIn: boolean): string {
  switch (moment.kind) {
    case 'as-they-go':
      return 'question by question as you go';
    case 'on-hand-in':
      return handedIn ? 'now' : 'as soon as you hand in';
    case 'after-attempt':
      return `after your attempt ${moment.number}`;
    case 'after-last-attempt':
      return 'after your last attempt';
    case 'over-for-everyone':
      return 'once nobody can be writing any more';
    case 'at':
      return `from ${momentText(moment.at, zone)}`;
    case 'after-closing':
      return moment.days === 0 ? 'once it has closed' : `${counted(moment.days, 'day')} after it has closed`;
    case 'on-publishing':
      return 'when your instructor publishes it';
  }
}

function untilSaid(end: ReleaseEnd, zone: string): string {
  switch (end.kind) {
    case 'at-closing':
      return ', until it closes';
    case 'at':
      return `, until ${momentText(end.at, zone)}`;
    case 'after-days':
      return `, for ${counted(end.days, 'day')}`;
    case 'once':
      return `, once for ${durationText(end.minutes * minute)}`;
  }
}

const windowSaid = ({ begins, ends }: ReleaseWindow, zone: string, handedIn: boolean): string =>
  `${momentSaid(begins, zone, handedIn)}${ends ? untilSaid(ends, zone) : ''}`;

/** Whether what begins at this moment is no more than a score so far, since a later publishing tells the final one. */
const isPreliminary = ({ begins }: ReleaseWindow): boolean => begins.kind !== 'on-publishing';

/**
 * A release plan in words for a student: what they see and when, what is seen at the same time in one sentence.
 *
 * @param handedIn whether they have handed in, so that what is shown on hand-in is shown now
 * @example planForStudent({ score: [{ begins: { kind: 'on-publishing' } }] }, 'UTC', false) // ['You see your score when your instructor publishes it.']
 */
export function planForStudent(plan: ReleasePlan, zone: string, handedIn: boolean): string[] {
  const groups = new Map<string, Fact[]>();
  const sentences: string[] = [];
  for (const fact of facts) {
    const windows = plan[fact] ?? [];
    if (windows.length === 0) continue;
    const final = windows.find((window) => !isPreliminary(window));
    const first = windows.filter(isPreliminary);
    if (fact === 'score' && final && first.length) {
      const said = first.map((window) => windowSaid(window, zone, handedIn)).join(', and ');
      sentences.push(`You see a preliminary score ${said}, and the final one ${windowSaid(final, zone, handedIn)}.`);
      continue;
    }
    const said = windows.map((window) => windowSaid(window, zone, handedIn)).join(', and again ');
    groups.set(said, [...(groups.get(said) ?? []), fact]);
  }
  for (const [said, own] of groups) {
    const names = inARow(own.map((fact) => yours[fact]));
    // "it" is one thing; several are published together.
    const when = own.length > 1 ? said.replace('publishes it', 'publishes them') : said;
    sentences.push(said === 'now' ? `You can see ${names} now.` : `You see ${names} ${when}.`);
  }
  return sentences.length ? sentences : ['You are shown nothing of it afterwards.'];
}
