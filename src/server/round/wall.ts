import { eq, sql } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { forStudent, type ShownQuestion } from '@/core/question/student';
import { fitForWall, type Movement, type QuestionBars, rightSaid, withoutKey } from '@/core/round/bars';
import { type LedPhase, ledPhaseNow } from '@/core/round/ledRound';
import type { Db } from '@/db/client';
import { attempt, handset } from '@/db/schema';
import type { Watch } from '../attempt/watchAttempt';
import { serverNow } from '../house/installation';
import { query } from '../house/useCase';
import { type SittingRow, sittingOf } from '../records/audience';
import { type RoundRow, roundOf } from '../records/roundOf';
import { doorOf } from './doors';
import { listenToRound } from './hub';
import { askedOf, barsOf, movementOf, passageOf, roundQuestions, takesPart } from './questions';
import { toRound } from './toRound';

/** The question on a wall, and how the class answered it. */
export type WallQuestion = {
  /** From 1. */
  number: number;
  phase: LedPhase;
  vote: number;
  openedAt: Instant | null;
  endsAt: Instant | null;
  view: ShownQuestion;
  passage: Rich | null;
  asked: number;
  answered: number;
  /** By vote, the first one first; empty while it is open. Without anything of the key before that is shown. */
  bars: QuestionBars[];
  /** Between the two votes, once the second is closed. */
  movement: Movement | null;
  /** What is right, in words; empty before it is shown. */
  right: string;
};

/**
 * What a projector shows a class: built from what it names. It names no person, holds nothing that only one person wrote,
 * and no key before that is shown.
 */
export type Wall = {
  title: string;
  courseName: string;
  door: string | null;
  pace: 'own' | 'led';
  now: Instant;
  /** How many have come in, and how many of them have handed in. */
  cameIn: number;
  handedIn: number;
  /** How many of them are made-up handsets. */
  madeUp: number;
  count: number;
  question: WallQuestion | null;
  stopped: boolean;
};

/** How many are in a round. */
function counts(db: Db, sittingId: string): Pick<Wall, 'cameIn' | 'handedIn' | 'madeUp'> {
  const row = db
    .select({
      cameIn: sql<number>`count(*)`,
      handedIn: sql<number>`coalesce(sum(${attempt.state} <> 'running'), 0)`,
      madeUp: sql<number>`coalesce(sum(coalesce(${handset.madeUp}, 0)), 0)`,
    })
    .from(attempt)
    .leftJoin(handset, eq(handset.userId, attempt.userId))
    .where(sql`${attempt.sittingId} = ${sittingId} and ${takesPart('all')}`)
    .get();
  return row ?? { cameIn: 0, handedIn: 0, madeUp: 0 };
}

/** Where the wall is: at the question the class is at, or talks through. */
function placeOf(held: RoundRow): { at: number; phase: LedPhase | null } | null {
  if (held.stoppedAt !== null) return held.walkedTo === null ? null : { at: held.walkedTo, phase: 'shown' };
  return held.led && held.led.at !== null ? { at: held.led.at, phase: null } : null;
}

function questionOn(db: Db, row: SittingRow, held: RoundRow, now: Instant): WallQuestion | null {
  const place = placeOf(held);
  const question = place && roundQuestions(db, row, held)[place.at];
  if (!place || !question) return null;
  const stands = held.led?.questions[place.at];
  const phase = place.phase ?? (stands ? ledPhaseNow(stands, now) : 'ahead');
  const number = stands?.vote ?? 1;
  const asked = askedOf(db, row.id, question.questionId, 'all');
  const isSeen = phase === 'closed' || phase === 'shown';
  const hasKey = phase === 'shown';
  const inVotes = held.led ? ([1, 2] as const).slice(0, number) : [null];
  const now1 = inVotes.at(-1) ?? null;
  // While a question is asked again, what was answered the first time would tell what others think.
  const bars = isSeen ? inVotes.map((vote) => fitForWall(barsOf(question, asked, vote))) : [];
  return {
    number: place.at + 1,
    phase,
    vote: number,
    openedAt: stands?.openedAt ?? null,
    endsAt: stands?.endsAt ?? null,
    view: forStudent(question.content, question.presentation),
    passage: passageOf(db, row.id, question.questionId),
    asked: asked.length,
    answered: barsOf(question, asked, now1).answered,
    bars: hasKey ? bars : bars.map(withoutKey),
    movement: isSeen && number > 1 ? fitMoves(movementOf(question, asked), 'choices' in question.content) : null,
    right: hasKey ? rightSaid(question.content, question.presentation) : '',
  };
}

/** Moves between choices are told; what only one person wrote in words of their own is not. */
const fitMoves = (movement: Movement, hasChoices: boolean): Movement =>
  hasChoices ? movement : { ...movement, moved: movement.moved.filter((one) => one.count > 1) };

/** A wall as it is now. */
export function wallNow(db: Db, row: SittingRow, held: RoundRow, courseName: string, now: Instant): Wall {
  return {
    title: row.title,
    courseName,
    door: doorOf(db, row.courseId),
    pace: held.rules.pace,
    now,
    ...counts(db, row.id),
    count: held.led?.questions.length ?? 0,
    question: questionOn(db, row, held, now),
    stopped: held.stoppedAt !== null,
  };
}

/** The wall of a round. */
export const seeWall = query({
  admits: toRound('sitting.invigilate'),
  does: ({ db, sitting: row, held, courseName, now }): Result<Wall> => ok(wallNow(db, row, held, courseName, now)),
});

/** Answers are gathered for so long, so that a class that answers at once costs a look or two. */
const gatherFor = 500;

const watching = toRound('sitting.invigilate');

/** Watches the wall of a round: a new phase at once, counts as they are gathered. */
export const watchWall = query({
  admits: watching,
  does({ context, db, courseId, sittingId, courseName }): Result<Watch<Wall>> {
    return ok((see, end) => {
      let timer: ReturnType<typeof setTimeout> | null = null;
      const look = () => {
        if (timer) clearTimeout(timer);
        timer = null;
        if (!watching.open(context, courseId, sittingId).ok) return void end?.();
        const row = sittingOf(db, courseId, sittingId);
        const held = roundOf(db, sittingId);
        if (row && held) see(wallNow(db, row, held, courseName, serverNow()));
      };
      const stop = listenToRound(db, sittingId, (news) => {
        if (news.what === 'round') setImmediate(look);
        else timer ??= setTimeout(look, gatherFor);
      });
      look();
      return () => {
        if (timer) clearTimeout(timer);
        stop();
      };
    });
  },
});
