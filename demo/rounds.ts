import { eq } from 'drizzle-orm';
import { type Random, seededRandom } from '../src/core/base/random';
import type { Result } from '../src/core/base/result';
import { day, hour, minute, second } from '../src/core/base/time';
import type { QuestionContent } from '../src/core/question/content';
import { leakKey } from '../src/core/release/leakCheck';
import { type RoundRules, usualRound } from '../src/core/round/roundRules';
import type { Db } from '../src/db/client';
import { paperSlot, question, questionVersion, sitting } from '../src/db/schema';
import { handInExpired } from '../src/server/attempt/endAttempt';
import { handIn } from '../src/server/attempt/handIn';
import { saveResponses } from '../src/server/attempt/saveResponses';
import { openForWriting } from '../src/server/attempt/takeAttempt';
import type { Actor, Context } from '../src/server/house/context';
import { pinnedDesign } from '../src/server/records/pinnedDesign';
import { beginRound } from '../src/server/round/beginRound';
import { comeIn } from '../src/server/round/comeIn';
import { doorOf } from '../src/server/round/doors';
import { leadRound, stopRound } from '../src/server/round/lead';
import { matchNames, seeMatching } from '../src/server/round/people';
import { leaksOf } from '../src/server/sitting/leaksOf';
import { acknowledge } from '../src/server/sitting/schedule';
import { answer, knows } from './answers';

export function must<T>(result: Result<T>): T {
  if (!result.ok) throw new Error(result.problems.map((problem) => problem.message).join('; '));
  return result.value;
}

type Student = Actor & { ability: number };

export type RoundStage = {
  db: Db;
  today: number;
  courseId: string;
  teacher: Actor;
  students: Student[];
  as: (actor: Actor, at: number) => Context;
};

/** Somebody who is in a round of the demo. */
type Inside = { actor: Actor; ability: number; attemptId: string; epoch: number; sequence: number };

/** Lets somebody into a round at a moment: as themselves, or by a name they type. */
function enter(stage: RoundStage, sittingId: string, student: Student, at: number, typed: string | null): Inside {
  const { db, courseId } = stage;
  const came = must(
    comeIn(
      { db, now: at, address: 'the school', actor: typed === null ? student : null },
      { code: doorOf(db, courseId) ?? '', sittingId, ...(typed === null ? {} : { name: typed }) },
    ),
  );
  const actor = came.letIn === null ? student : { userId: came.letIn, name: typed ?? '' };
  const { epoch } = must(openForWriting(stage.as(actor, at + second), came.attemptId));
  return { actor, ability: student.ability, attemptId: came.attemptId, epoch, sequence: 0 };
}

/** Somebody answers a question of their paper, knowing it or not. */
function give({ db }: RoundStage, one: Inside, place: number, vote: number, at: number, lift: number, chance: Random) {
  const row = db
    .select({ slot: paperSlot, content: questionVersion.content, difficulty: question.difficulty })
    .from(paperSlot)
    .innerJoin(questionVersion, eq(questionVersion.id, paperSlot.versionId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .where(eq(paperSlot.attemptId, one.attemptId))
    .orderBy(paperSlot.position)
    .all()[place];
  if (!row) return;
  const ability = one.ability + lift;
  const content = row.content as QuestionContent;
  const value = answer(content, row.slot.presentation, knows(ability, row.difficulty, chance), ability, chance);
  if (value === undefined) return;
  one.sequence += 1;
  const { attemptId, epoch, sequence } = one;
  for (const saved of saveResponses(db, [
    {
      context: { actor: one.actor, now: at, db },
      save: { attemptId, slotId: row.slot.id, epoch, sequence, value, comeBack: false, vote },
    },
  ]))
    must(saved);
}

const begin = (stage: RoundStage, examId: string, at: number, rules: Partial<RoundRules>): string =>
  must(beginRound(stage.as(stage.teacher, at), stage.courseId, { examId, rules: { ...usualRound, ...rules } }))
    .sittingId;

/** At everybody's own pace, twelve days ago: whoever was there was signed in. */
function ownPace(stage: RoundStage, examId: string, questions: number): void {
  const chance = seededRandom('a round at their own pace');
  const at = Math.floor(stage.today / hour) * hour - 12 * day;
  const sittingId = begin(stage, examId, at, { pace: 'own', comingIn: 'sign-in', learning: 'stop', counts: 'no' });
  stage.students.forEach((student, i) => {
    if (i % 8 === 6) return;
    const starts = at + (20 + chance.below(70)) * second;
    const one = enter(stage, sittingId, student, starts, null);
    for (let place = 0; place < questions; place++)
      give(stage, one, place, 1, starts + (place + 1) * (25 + chance.below(20)) * second, -0.5, chance);
    if (i % 5 !== 3) must(handIn(stage.as(one.actor, starts + 7 * minute), one.attemptId, {}));
  });
  must(stopRound(stage.as(stage.teacher, at + 9 * minute), stage.courseId, sittingId));
  handInExpired(stage.as(stage.teacher, at + 10 * minute));
}

/** What some people type as their name: nicknames, one word, another order. */
function typedName(name: string, i: number): string {
  const [first = '', ...rest] = name.split(' ');
  if (i === 6) return 'Skipper';
  if (i % 9 === 4) return first;
  if (i % 9 === 7) return `${rest.join(' ')} ${first}`.trim();
  return i % 11 === 5 ? name.toLowerCase() : name;
}

/** Led, five days ago: names were typed, and one question was asked again after people had talked. */
function led(stage: RoundStage, examId: string, questions: number): void {
  const chance = seededRandom('a round that was led');
  const at = Math.floor(stage.today / hour) * hour - 5 * day + 10 * minute;
  const sittingId = begin(stage, examId, at, { pace: 'led', comingIn: 'name', learning: 'each' });
  const there = stage.students.filter((_, i) => i % 10 !== 8);
  const inside = there.map((student, i) =>
    enter(stage, sittingId, student, at + (15 + chance.below(60)) * second, typedName(student.name, i)),
  );
  const lead = (kind: 'open' | 'open-again' | 'close' | 'show', place: number, now: number) =>
    must(leadRound(stage.as(stage.teacher, now), stage.courseId, sittingId, { kind, question: place }));
  let now = at + 2 * minute;
  for (let place = 0; place < questions; place++) {
    lead('open', place, now);
    for (const one of inside) give(stage, one, place, 1, now + (5 + chance.below(45)) * second, -0.3, chance);
    lead('close', place, now + 50 * second);
    if (place === 2) {
      now += 3 * minute;
      lead('open-again', place, now);
      for (const one of inside) give(stage, one, place, 2, now + (5 + chance.below(35)) * second, 1.3, chance);
      lead('close', place, now + 40 * second);
    }
    lead('show', place, now + 70 * second);
    now += 2 * minute;
  }
  must(stopRound(stage.as(stage.teacher, now), stage.courseId, sittingId));
  handInExpired(stage.as(stage.teacher, now + minute));
  const context = stage.as(stage.teacher, now + hour);
  const { proposals } = must(seeMatching(context, stage.courseId, sittingId));
  const sure = proposals.flatMap(({ guestId, proposed }) => (proposed ? [{ guestId, userId: proposed }] : []));
  must(matchNames(context, stage.courseId, sittingId, sure));
}

/**
 * Two rounds held in earlier weeks, of the same exam. Whatever is chosen for the next one is what was chosen for the last.
 *
 * @param questions how many the exam has
 */
export function roundsHeld(stage: RoundStage, examId: string, questions: number): void {
  ownPace(stage, examId, questions);
  led(stage, examId, questions);
  // The final exam draws from the same questions: the instructor has read that, and tells the class all the same.
  const { db, courseId, today } = stage;
  for (const row of db.select().from(sitting).where(eq(sitting.isRound, true)).all())
    for (const leak of leaksOf(db, row, pinnedDesign(db, row.revisionId), today))
      must(acknowledge(stage.as(stage.teacher, today - 4 * day), courseId, row.id, leakKey(leak)));
}
