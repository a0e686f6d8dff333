import { and, eq, inArray, sql } from 'drizzle-orm';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import type { Instant } from '@/core/base/time';
import type { AnswerOutcome } from '@/core/marking/outcome';
import { permits } from '@/core/people/policy';
import { stemLine } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { forStudent, type ShownQuestion } from '@/core/question/student';
import { answerSaid, outcomeGiven, rightSaid } from '@/core/round/bars';
import { type LedPhase, ledPhaseNow } from '@/core/round/ledRound';
import type { RoundLearning } from '@/core/round/roundRules';
import { noArrangement } from '@/core/sitting/rules';
import type { Db } from '@/db/client';
import { attempt, course, handset, membership, paperSlot, response, sitting, vote } from '@/db/schema';
import type { Watch } from '../attempt/watchAttempt';
import { listen } from '../house/bus';
import type { Context } from '../house/context';
import { serverNow } from '../house/installation';
import { type Door, query } from '../house/useCase';
import type { SittingRow } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { standingPublications } from '../records/published';
import { type HandsetRow, type RoundRow, roundOf } from '../records/roundOf';
import { zoneOf } from '../records/zoneOf';
import { releaseFactsFor, shownTo } from '../release/releaseFacts';
import { listenToRound } from './hub';
import { passageOf, type RoundQuestion, roundQuestions } from './questions';

/** A question as it stands before everybody: the same for all. */
type Before = {
  /** From 0. */
  at: number;
  phase: LedPhase;
  vote: number;
  openedAt: Instant | null;
  endsAt: Instant | null;
  view: ShownQuestion;
  passage: Rich | null;
};

/** What its owner learns of their own answer. */
export type OwnOutcome = {
  /** Null where a person judges it, or no key is known. */
  outcome: AnswerOutcome | null;
  given: string;
  right: string;
};

/** How one did in a round, as far as its rules tell. */
export type RoundSummary = {
  /** In words; null where it is not shown, or not known yet. */
  score: string | null;
  /** Whether something of it waits, because others may still be writing the same questions. */
  held: boolean;
  questions: {
    number: number;
    name: string;
    /** `waits`: a person marks it, or its key is not known; `told`: whether it was right is not told. */
    state: AnswerOutcome | 'waits' | 'told';
    given: string;
    right: string;
  }[];
};

/** A round as one device sees it. */
export type DeviceRound = {
  title: string;
  courseName: string;
  now: Instant;
  pace: 'own' | 'led';
  learning: RoundLearning;
  name: string;
  /** Whether somebody typed its name here, or whoever is signed in is known by it. */
  isDevice: boolean;
  /** The four digits with which one goes on at another device; null for whoever signed in. */
  wayBack: string | null;
  madeUp: boolean;
  attemptId: string;
  /** How many questions a led round has. */
  count: number;
  question: (Before & { slotId: string }) | null;
  /** The answers given here by vote, of the question that is before everybody. */
  answers: { first: unknown; second: unknown };
  /** What is learnt of one's own answer, once that is shown. */
  own: OwnOutcome | null;
  stopped: boolean;
  /** What of the whole is shown, once it is over; null before. */
  summary: RoundSummary | null;
  /** A question that is talked through, and one's own answer to it. */
  walked: { number: number; view: ShownQuestion; value: unknown; own: OwnOutcome | null } | null;
  /** Whether it was handed in, at one's own pace. */
  handedIn: boolean;
};

type Device = {
  sittingId: string;
  sitting: SittingRow;
  held: RoundRow;
  attempt: typeof attempt.$inferSelect;
  device: HandsetRow | null;
};

/** The attempt that a person, or the device they came in as, has in a round. */
function deviceOf(context: Context, sittingId: string): Device | null {
  const { db, actor } = context;
  const row = db
    .select({ sitting, attempt })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(
      and(
        eq(attempt.sittingId, sittingId),
        sql`(${attempt.userId} = ${actor.userId} or ${attempt.cameAs} = ${actor.userId})`,
        eq(sitting.isRound, true),
      ),
    )
    .orderBy(sql`${attempt.state} = 'voided'`, sql`${attempt.number} desc`)
    .limit(1)
    .get();
  const held = row && roundOf(db, sittingId);
  if (!row || !held) return null;
  const device = db.select().from(handset).where(eq(handset.userId, actor.userId)).get() ?? null;
  return { ...row, sittingId, held, device };
}

/** To the round in which one is: as oneself, or as the device one came in as. */
export const toOwnRound: Door<readonly ['roundId'], Device> = {
  ids: ['roundId'],
  action: 'sitting.take',
  open(context, roundId) {
    const found = deviceOf(context, roundId);
    if (!found || !permits('sitting.take', 'student', true)) return notFound('round');
    // Sent out, it is nobody's round any more.
    return found.device?.sentOutAt != null || (found.attempt.state === 'voided' && !found.device?.madeUp)
      ? notFound('round')
      : ok(found);
  },
};

const keptViews = new Map<string, ShownQuestion>();

/** A question as everybody sees it; the same object for a whole class. */
function viewOf(sittingId: string, question: RoundQuestion): ShownQuestion {
  const key = `${sittingId}/${question.versionId}/${question.presentation.choices?.[0]?.key ?? ''}`;
  const known = keptViews.get(key);
  if (known) return known;
  const view = forStudent(question.content, question.presentation);
  if (keptViews.size > 500) keptViews.clear();
  keptViews.set(key, view);
  return view;
}

/** What a round has before everybody now. */
type Common = {
  held: RoundRow;
  row: SittingRow;
  questions: RoundQuestion[];
  before: Before | null;
  /** The question that is talked through, from 0. */
  walked: { at: number; question: RoundQuestion } | null;
  now: Instant;
};

function lookAtAll(db: Db, row: SittingRow, held: RoundRow, now: Instant): Common {
  const walkedTo = held.stoppedAt === null ? null : held.walkedTo;
  const questions = held.led || walkedTo !== null ? roundQuestions(db, row, held) : [];
  const walkedQuestion = walkedTo === null ? undefined : questions[walkedTo];
  const walked = walkedTo !== null && walkedQuestion ? { at: walkedTo, question: walkedQuestion } : null;
  const { led } = held;
  const at = led?.at ?? null;
  const stands = at === null ? undefined : led?.questions[at];
  const question = at === null ? undefined : questions[at];
  if (!stands || !question || at === null) return { held, row, questions, before: null, walked, now };
  return {
    held,
    row,
    questions,
    walked,
    now,
    before: {
      at,
      phase: ledPhaseNow(stands, now),
      vote: stands.vote,
      openedAt: stands.openedAt,
      endsAt: stands.endsAt,
      view: viewOf(row.id, question),
      passage: passageOf(db, row.id, question.questionId),
    },
  };
}

/** What is stored of one question on each of some papers. */
type OwnSlot = { slotId: string; presentation: Presentation; value: unknown; first: unknown; second: unknown };

/** The slots of a question on the papers of some attempts, with what was entered. */
function slotsOf(db: Db, sittingId: string, attemptIds: readonly string[], questionId: string): Map<string, OwnSlot> {
  const few = attemptIds.length <= 50 ? inArray(attempt.id, [...attemptIds]) : undefined;
  const rows = db
    .select({
      attemptId: attempt.id,
      slotId: paperSlot.id,
      presentation: paperSlot.presentation,
      value: response.value,
    })
    .from(attempt)
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(and(eq(attempt.sittingId, sittingId), eq(paperSlot.questionId, questionId), few))
    .all();
  const slots = new Map<string, OwnSlot>(
    rows.map(({ attemptId, ...one }) => [attemptId, { ...one, first: null, second: null }]),
  );
  const bySlot = new Map([...slots.values()].map((one) => [one.slotId, one]));
  const votes = db
    .select({ slotId: vote.slotId, number: vote.number, value: vote.value })
    .from(attempt)
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .innerJoin(vote, eq(vote.slotId, paperSlot.id))
    .where(and(eq(attempt.sittingId, sittingId), eq(paperSlot.questionId, questionId), few))
    .all();
  for (const { slotId, number, value } of votes) {
    const own = bySlot.get(slotId);
    if (own) own[number === 1 ? 'first' : 'second'] = value;
  }
  return slots;
}

/** What of a round is only one device's. */
type Private = { slot: OwnSlot | null; walked: DeviceRound['walked']; summary: RoundSummary | null };

const outcomeFor = (question: RoundQuestion, value: unknown): OwnOutcome => ({
  outcome: outcomeGiven(question.content, { presentation: question.presentation, value }),
  given: answerSaid(question.content, { presentation: question.presentation, value }),
  right: rightSaid(question.content, question.presentation),
});

function describe(
  common: Common,
  own: Device,
  { slot, walked, summary }: Private,
  courseName: string,
  name: string,
): DeviceRound {
  const { held, row, before, questions, now } = common;
  const question = before && questions[before.at];
  const { learning } = held.rules;
  // Led, what is right is learnt as it is shown; where it is learnt later, the wall alone shows it.
  const learns = before?.phase === 'shown' && learning === 'each' && held.stoppedAt === null;
  return {
    title: row.title,
    courseName,
    now,
    pace: held.rules.pace,
    learning,
    name,
    isDevice: own.device !== null,
    wayBack: own.device?.wayBack ?? null,
    madeUp: own.device?.madeUp ?? false,
    attemptId: own.attempt.id,
    count: held.led?.questions.length ?? 0,
    question: before && slot && !common.walked ? { ...before, slotId: slot.slotId } : null,
    answers: { first: slot?.first ?? null, second: slot?.second ?? null },
    own: learns && question && slot ? outcomeFor(question, slot.value) : null,
    stopped: held.stoppedAt !== null,
    summary,
    walked,
    handedIn: own.attempt.state !== 'running',
  };
}

/** The question of which everybody's own answer is looked up: what is talked through, else what the class is at. */
const lookedAt = ({ walked, before, questions }: Common): RoundQuestion | undefined =>
  walked ? walked.question : before ? questions[before.at] : undefined;

/** One's own answer to the question that is talked through, with whether it was right where the round tells that. */
function walkedFor({ walked, held }: Common, slot: OwnSlot | null): DeviceRound['walked'] {
  if (!walked || !slot) return null;
  const mine = { ...walked.question, presentation: slot.presentation };
  return {
    number: walked.at + 1,
    view: forStudent(mine.content, mine.presentation),
    value: slot.value ?? null,
    own: held.rules.learning === 'never' ? null : outcomeFor(mine, slot.value),
  };
}

/** What its plan shows of an attempt that is over. What a made-up device did is no result. */
function summaryFor(db: Db, { sitting: row, held, attempt: one, device }: Device, now: Instant): RoundSummary | null {
  if (held.stoppedAt === null || one.state !== 'handed-in' || device?.madeUp) return null;
  const zone = zoneOf(db, row.courseId);
  const whom = { userId: one.userId, arrangement: noArrangement };
  const { visible, held: waits } = shownTo(db, row, releaseFactsFor(db, row, whom, zone, now), now);
  const published = standingPublications(db, row.id, { preliminary: true, userId: one.userId }).get(one.userId);
  const score =
    visible.has('score') && published ? `${pointsText(published.earned)} of ${pointsText(published.possible)}` : null;
  if (!visible.has('questions')) return { score, held: waits.size > 0, questions: [] };
  const slots = db
    .select({ versionId: paperSlot.versionId, presentation: paperSlot.presentation, value: response.value })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(eq(paperSlot.attemptId, one.id))
    .orderBy(paperSlot.position)
    .all();
  const contents = frozenContents(
    db,
    slots.map((slot) => slot.versionId),
  );
  return {
    score,
    held: waits.size > 0,
    questions: slots.flatMap((slot, i) => {
      const content = contents.get(slot.versionId);
      if (!content) return [];
      const given = answerSaid(content, slot);
      const judged = outcomeGiven(content, slot);
      const hasKey = rightSaid(content, slot.presentation) !== '';
      return [
        {
          number: i + 1,
          name: stemLine(content),
          state: !visible.has('right-or-wrong') ? 'told' : (judged ?? (hasKey ? 'wrong' : 'waits')),
          given: visible.has('own-answers') ? given : '',
          right: visible.has('right-answers') ? rightSaid(content, slot.presentation) : '',
        },
      ];
    }),
  };
}

function look(context: Context, own: Device, now: Instant): DeviceRound {
  const { db } = context;
  const common = lookAtAll(db, own.sitting, own.held, now);
  const question = lookedAt(common);
  const slot = question
    ? (slotsOf(db, own.sitting.id, [own.attempt.id], question.questionId).get(own.attempt.id) ?? null)
    : null;
  return describe(common, own, partOf(db, common, own, slot), courseNameOf(db, own.sitting), context.actor.name);
}

/** What of a round is one device's alone; of the whole nothing while one question is talked through. */
const partOf = (db: Db, common: Common, own: Device, slot: OwnSlot | null): Private => ({
  slot,
  walked: walkedFor(common, slot),
  summary: common.walked ? null : summaryFor(db, own, common.now),
});

const courseNameOf = (db: Db, row: SittingRow): string =>
  db.select({ name: course.name }).from(course).where(eq(course.id, row.courseId)).get()?.name ?? '';

/** A round as one's own device sees it now. */
export const seeOwnRound = query({
  admits: toOwnRound,
  does: ({ context, sittingId, sitting: row, held, attempt: own, device }): Result<DeviceRound> =>
    ok(look(context, { sittingId, sitting: row, held, attempt: own, device }, context.now)),
});

type Watcher = { see: (seen: DeviceRound) => void; own: Device; courseName: string; name: string };

/** Those who watch each round: what is before everybody is looked up once for all of them. */
const watchers = new Map<string, { all: Set<Watcher>; waiting: boolean; stop: () => void }>();

function tellAll(db: Db, sittingId: string): void {
  const group = watchers.get(sittingId);
  const [any] = group?.all ?? [];
  if (!group || !any) return;
  group.waiting = false;
  const row = db.select().from(sitting).where(eq(sitting.id, sittingId)).get();
  const held = roundOf(db, sittingId);
  if (!row || !held) return;
  const common = lookAtAll(db, row, held, serverNow());
  const question = lookedAt(common);
  const all = [...group.all];
  const slots = question
    ? slotsOf(
        db,
        sittingId,
        all.map((one) => one.own.attempt.id),
        question.questionId,
      )
    : new Map<string, OwnSlot>();
  for (const one of all) {
    one.own = { ...one.own, held, sitting: row };
    const slot = slots.get(one.own.attempt.id) ?? null;
    one.see(describe(common, one.own, partOf(db, common, one.own, slot), one.courseName, one.name));
  }
}

/** Watches a round from one's own device: how it stands now, and again whenever it goes on; null once one is no longer in it. */
export const watchOwnRound = query({
  admits: toOwnRound,
  does({ context, db, sittingId, sitting: row, held, attempt: own, device }): Result<Watch<DeviceRound | null>> {
    return ok((see, end) => {
      const watcher: Watcher = {
        see,
        own: { sittingId, sitting: row, held, attempt: own, device },
        courseName: courseNameOf(db, row),
        name: context.actor.name,
      };
      const group = watchers.get(sittingId) ?? { all: new Set<Watcher>(), waiting: false, stop: () => {} };
      if (!watchers.has(sittingId)) {
        watchers.set(sittingId, group);
        group.stop = listenToRound(db, sittingId, (news) => {
          if (news.what !== 'round' || group.waiting) return;
          group.waiting = true;
          setImmediate(() => tellAll(db, sittingId));
        });
      }
      group.all.add(watcher);
      // What concerns this one alone: renamed, sent out, handed in; found again as it is by now.
      const stopOwn = listen(sittingId, (news) => {
        const mine = [context.actor.userId, watcher.own.attempt.userId];
        if (news.what !== 'attempt' || !news.userId || !mine.includes(news.userId)) return;
        setImmediate(() => {
          if (!group.all.has(watcher)) return;
          const found = toOwnRound.open(context, sittingId);
          if (!found.ok) {
            // Sent out: said once, so that the device does not wait for a connection.
            see(null);
            return void end?.();
          }
          watcher.own = found.value;
          const named = db
            .select({ name: sql<string>`(select name from user where id = ${membership.userId})` })
            .from(membership)
            .where(eq(membership.userId, context.actor.userId))
            .get();
          watcher.name = named?.name ?? watcher.name;
          see(look({ ...context, actor: { ...context.actor, name: watcher.name } }, watcher.own, serverNow()));
        });
      });
      see(look(context, watcher.own, serverNow()));
      return () => {
        group.all.delete(watcher);
        stopOwn();
        if (group.all.size > 0) return;
        group.stop();
        watchers.delete(sittingId);
      };
    });
  },
});
