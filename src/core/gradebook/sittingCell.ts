import type { Instant } from '../base/time';
import { type AttemptFacts, type AttemptsSoFar, closesFor, daysLate, doneAt, soFarOf } from '../sitting/clock';
import type { Arrangement, SittingRules } from '../sitting/rules';
import { type Completion, type CompletionFacts, isDone } from './completion';
import type { GradebookCell } from './courseTotal';

/** What a cell says besides its score. */
export type CellSign =
  | 'published'
  | 'preliminary'
  | 'not-published'
  | 'missing'
  /** It was over before the student came into the course: asked of them only where it is given to them anew. */
  | 'before-joining'
  | 'excused'
  | 'entered'
  /** Not given to this student, or nothing yet. */
  | 'none';

/** What stands published, or is shown as preliminary, of one student in one sitting. */
type StandingPublication = CompletionFacts & { preliminary: boolean; attemptIds: readonly string[] };

/** What decides what stands in the cell of one student in the column of a sitting. */
export type SittingCellFacts = {
  rules: SittingRules;
  arrangement: Arrangement;
  completion: Completion | null;
  /** Whether the sitting is scheduled: a draft or one called off is missed by nobody. */
  scheduled: boolean;
  /** Whether it counts for taking part. */
  taking: boolean;
  /** Whether the sitting is given to this student. */
  given: boolean;
  /** When the student came into the course. */
  joined: Instant;
  /** The student's attempts in it, voided ones left out. */
  attempts: readonly (AttemptFacts & { id: string })[];
  published: StandingPublication | null;
};

/** What stands in the cell of one student in one sitting, and why. */
export type SittingCell = {
  cell: GradebookCell;
  sign: CellSign;
  /** Whether the student is done with the sitting; null where it does not say when. */
  done: boolean | null;
};

/**
 * Which cell of a gradebook counts, and with what: what was published counts, in full where it counts for taking part, and
 * as late as the latest of the attempts it rests on. Without a publication it is excused, waits, or is missing once the
 * sitting is over for this student, arrangements included, and nothing runs. What was over before they came is not missed.
 */
export function sittingCell(facts: SittingCellFacts, now: Instant): SittingCell {
  const { rules, arrangement, completion, attempts, published } = facts;
  if (published && !published.preliminary) {
    const counting = attempts.filter((one) => published.attemptIds.includes(one.id));
    return {
      cell: {
        kind: 'score',
        earned: facts.taking ? published.possible : published.earned,
        possible: published.possible,
        daysLate: Math.max(
          0,
          ...counting.map((one) => (one.endedAt === null ? 0 : daysLate(rules, arrangement, one.endedAt))),
        ),
      },
      sign: 'published',
      done: isDone(completion, published),
    };
  }
  if (arrangement.excused) return { cell: { kind: 'excused' }, sign: 'excused', done: null };
  const empty = (sign: CellSign): SittingCell => ({ cell: { kind: 'empty' }, sign, done: isDone(completion, null) });
  if (published) return empty('preliminary');
  if (attempts.some((one) => one.state === 'handed-in')) return empty('not-published');
  if (!facts.given) return { ...empty('none'), done: null };
  const over = missedAt(facts, soFarOf(attempts), now);
  if (over === null) return empty('none');
  if (over <= facts.joined) return { ...empty('before-joining'), done: null };
  return { cell: { kind: 'missing' }, sign: 'missing', done: isDone(completion, null) };
}

/** Since when it is over for this student without anything of theirs; null where it is not. */
function missedAt(
  { rules, arrangement, scheduled }: SittingCellFacts,
  soFar: AttemptsSoFar,
  now: Instant,
): Instant | null {
  const over = doneAt(rules, arrangement, soFar) ?? closesFor(rules, arrangement);
  return scheduled && over !== null && over <= now && soFar.running === null ? over : null;
}
