import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { isKeyed } from '@/core/exam/items/item';
import { stemLine } from '@/core/question/content';
import { forStudent, type ShownQuestion } from '@/core/question/student';
import { creditGiven, type Movement, type QuestionBars, rightSaid } from '@/core/round/bars';
import {
  type Group,
  type Grouped,
  type Grouping,
  type GroupKind,
  groupings,
  groupKinds,
  groupsOf,
} from '@/core/round/groups';
import type { RoundRules } from '@/core/round/roundRules';
import type { Db } from '@/db/client';
import {
  attempt,
  handset,
  membership,
  objective,
  paperSlot,
  questionObjective,
  response,
  round,
  section,
  sitting,
  user,
} from '@/db/schema';
import { newId } from '../house/context';
import { command, query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import type { SittingRow } from '../records/audience';
import { newestMarkId } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import type { RoundRow } from '../records/roundOf';
import { askedOf, barsOf, movementOf, passageOf, roundQuestions, takesPart } from './questions';
import { toRound } from './toRound';

/** A question of a round afterwards: its text, and how the class answered it. */
export type AfterQuestion = {
  questionId: string;
  name: string;
  view: ShownQuestion;
  passage: Rich | null;
  bars: QuestionBars[];
  movement: Movement | null;
  right: string;
  lacksKey: boolean;
  /** Mean credit in percent of those who were asked, an empty answer counting as none; null where no key judges it. */
  mean: number | null;
};

export type AfterRound = {
  title: string;
  rules: RoundRules;
  onTheSpot: boolean;
  stoppedAt: Instant | null;
  walkedTo: number | null;
  /** How many took part, and how many made-up handsets are left out. */
  people: number;
  madeUp: number;
  /** Whether answers of made-up handsets are shown, because there are no others or they were asked for. */
  withMadeUp: boolean;
  questions: AfterQuestion[];
  /** How many typed names nobody has matched to the roster. */
  unmatched: number;
};

/** A round afterwards: question by question with how the class answered, and what is still to be done. */
export const seeAfter = query({
  admits: toRound('results.see'),
  takes: [z.boolean().default(false)],
  does({ db, sitting: row, held }, wanted): Result<AfterRound> {
    const counts = db
      .select({
        real: sql<number>`coalesce(sum(coalesce(${handset.madeUp}, 0) = 0), 0)`,
        madeUp: sql<number>`coalesce(sum(coalesce(${handset.madeUp}, 0)), 0)`,
      })
      .from(attempt)
      .leftJoin(handset, eq(handset.userId, attempt.userId))
      .where(and(eq(attempt.sittingId, row.id), takesPart('all')))
      .get() ?? { real: 0, madeUp: 0 };
    const withMadeUp = wanted || (counts.real === 0 && counts.madeUp > 0);
    const unmatched = db
      .select({ n: sql<number>`count(*)` })
      .from(handset)
      .where(
        and(
          eq(handset.sittingId, row.id),
          eq(handset.madeUp, false),
          sql`${handset.standsFor} is null and ${handset.sentOutAt} is null and ${handset.typed} <> ''`,
        ),
      )
      .get();
    return ok({
      title: row.title,
      rules: held.rules,
      onTheSpot: held.onTheSpot,
      stoppedAt: held.stoppedAt,
      walkedTo: held.walkedTo,
      people: counts.real,
      madeUp: counts.madeUp,
      withMadeUp,
      questions: questionsAfter(db, row, held, withMadeUp),
      unmatched: unmatched?.n ?? 0,
    });
  },
});

function questionsAfter(db: Db, row: SittingRow, held: RoundRow, withMadeUp: boolean): AfterQuestion[] {
  return roundQuestions(db, row, held).map((question, i): AfterQuestion => {
    const asked = askedOf(db, row.id, question.questionId, withMadeUp ? 'all' : 'real');
    const votes = held.led?.questions[i]?.vote ?? 1;
    const credits = asked.map((one) => creditGiven(question.content, one) ?? 0);
    const judged = isKeyed(question.content) && rightSaid(question.content, question.presentation) !== '';
    return {
      questionId: question.questionId,
      name: stemLine(question.content),
      view: forStudent(question.content, question.presentation),
      passage: passageOf(db, row.id, question.questionId),
      bars: held.led
        ? ([1, 2] as const).slice(0, Math.max(1, votes)).map((vote) => barsOf(question, asked, vote))
        : [barsOf(question, asked)],
      movement: votes > 1 ? movementOf(question, asked) : null,
      right: rightSaid(question.content, question.presentation),
      lacksKey: !isKeyed(question.content),
      mean: judged && asked.length > 0 ? (100 * credits.reduce((sum, one) => sum + one, 0)) / asked.length : null,
    };
  });
}

/** Somebody in a group, by name. */
export type GroupMember = { userId: string; name: string; percent: number };
export type ShownGroup = { members: GroupMember[]; objective: string | null };
export type Groups = { groups: ShownGroup[]; objectives: { code: string; wording: string }[]; people: number };

const groupInput = z.object({
  size: z.number({ message: 'Say how many in a group.' }).int('A whole number.').min(1, 'At least one.').max(500),
  by: z.enum(groupings),
  kind: z.enum(groupKinds),
});

/** Those who took part, with how they did by objective: from their answers, whether or not a person has marked them yet. */
function groupedPeople(db: Db, row: SittingRow): { people: Grouped[]; names: Map<string, string> } {
  const slots = db
    .select({
      userId: attempt.userId,
      name: user.name,
      questionId: paperSlot.questionId,
      versionId: paperSlot.versionId,
      points: paperSlot.points,
      presentation: paperSlot.presentation,
      value: response.value,
    })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(handset, eq(handset.userId, attempt.userId))
    .where(and(eq(attempt.sittingId, row.id), takesPart('real')))
    .orderBy(asc(user.name))
    .all();
  const contents = frozenContents(db, [...new Set(slots.map((one) => one.versionId))]);
  const ids = [...new Set(slots.map((one) => one.questionId))];
  const aligned = ids.length
    ? db
        .select({ questionId: questionObjective.questionId, code: objective.code })
        .from(questionObjective)
        .innerJoin(objective, eq(objective.id, questionObjective.objectiveId))
        .where(inArray(questionObjective.questionId, ids))
        .all()
    : [];
  const codes = new Map<string, string[]>();
  for (const { questionId, code } of aligned) codes.set(questionId, [...(codes.get(questionId) ?? []), code]);
  type Sum = { earned: number; possible: number };
  const sums = new Map<string, { name: string; all: Sum; by: Map<string, Sum> }>();
  for (const slot of slots) {
    const content = contents.get(slot.versionId);
    if (!content || !isKeyed(content) || rightSaid(content, slot.presentation) === '') continue;
    const own = sums.get(slot.userId) ?? {
      name: slot.name,
      all: { earned: 0, possible: 0 },
      by: new Map<string, Sum>(),
    };
    sums.set(slot.userId, own);
    const earned = (creditGiven(content, slot) ?? 0) * slot.points;
    own.all.earned += earned;
    own.all.possible += slot.points;
    for (const code of codes.get(slot.questionId) ?? []) {
      const sum = own.by.get(code) ?? { earned: 0, possible: 0 };
      own.by.set(code, { earned: sum.earned + earned, possible: sum.possible + slot.points });
    }
  }
  const share = ({ earned, possible }: Sum) => (possible > 0 ? earned / possible : 0);
  return {
    names: new Map([...sums].map(([userId, { name }]) => [userId, name])),
    people: [...sums].map(([userId, { all, by }]) => ({
      userId,
      percent: 100 * share(all),
      objectives: new Map([...by].map(([code, sum]) => [code, share(sum)])),
    })),
  };
}

/** Puts those who took part into groups for another lesson. */
export const seeGroups = query({
  admits: toRound('people.see'),
  takes: [groupInput],
  does({ db, sitting: row }, { size, by, kind }): Result<Groups> {
    const { people, names } = groupedPeople(db, row);
    const percents = new Map(people.map((one) => [one.userId, one.percent]));
    return ok({
      people: people.length,
      groups: groupsOf(people, size, by as Grouping, kind as GroupKind).map(
        ({ members, objective: missed }: Group): ShownGroup => ({
          objective: missed,
          members: members.map((userId) => ({
            userId,
            name: names.get(userId) ?? '',
            percent: percents.get(userId) ?? 0,
          })),
        }),
      ),
      objectives: db
        .selectDistinct({ code: objective.code, wording: objective.wording })
        .from(objective)
        .innerJoin(questionObjective, eq(questionObjective.objectiveId, objective.id))
        .innerJoin(paperSlot, eq(paperSlot.questionId, questionObjective.questionId))
        .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
        .where(eq(attempt.sittingId, row.id))
        .orderBy(objective.code)
        .all(),
    });
  },
});

/** Makes a section of a group: those of it who are on the roster are in it from now on, wherever they were before. */
export const groupToSection = command({
  admits: toRound('people.change'),
  takes: [
    z.object({
      name: z.string().trim().min(1, 'Give the section a name.').max(60),
      userIds: z.array(id('user')).min(1).max(600),
    }),
  ],
  logs: 'round.section',
  does({ tx, courseId, sittingId, record }, { name, userIds }): Result<{ moved: number }> {
    const taken = tx
      .select({ id: section.id })
      .from(section)
      .where(and(eq(section.courseId, courseId), sql`lower(${section.name}) = ${name.toLowerCase()}`))
      .get();
    if (taken) return refused('conflict', 'There is a section of this name.', 'name');
    const listed = tx
      .select({ userId: membership.userId })
      .from(membership)
      .where(
        and(
          eq(membership.courseId, courseId),
          eq(membership.role, 'student'),
          sql`${membership.onlySitting} is null and ${membership.removedAt} is null`,
          inArray(membership.userId, userIds),
        ),
      )
      .all()
      .map((one) => one.userId);
    if (listed.length === 0)
      return refused('conflict', 'None of them is on the roster: match the names first.', 'name');
    const last = tx
      .select({ n: sql<number>`coalesce(max(${section.position}), -1)` })
      .from(section)
      .where(eq(section.courseId, courseId))
      .get();
    const sectionId = newId();
    tx.insert(section)
      .values({ id: sectionId, courseId, name, position: (last?.n ?? -1) + 1 })
      .run();
    tx.update(membership)
      .set({ sectionId })
      .where(and(eq(membership.courseId, courseId), inArray(membership.userId, listed)))
      .run();
    record({ subjectId: sittingId, detail: { name, people: listed.length } });
    return ok({ moved: listed.length });
  },
});

/** Joins a slot to the mark that counts, as `m`. */
const countingMark = sql`m.id = ${newestMarkId(sql`${paperSlot.id}`)}`;

/** Mean credit in percent over all slots that have a mark; null where none has. */
const meanPercent = sql<
  number | null
>`100.0 * sum(m.points) / nullif(sum(case when m.id is not null then ${paperSlot.points} end), 0)`;

/** A round in the history of a course. */
export type HeldRound = {
  sittingId: string;
  examId: string;
  title: string;
  opens: Instant | null;
  stoppedAt: Instant | null;
  pace: 'own' | 'led';
  counts: RoundRules['counts'];
  onTheSpot: boolean;
  people: number;
  /** Mean credit in percent over all answers a key judges; null where there is none. */
  mean: number | null;
};

/** The rounds of a course: those that are open first, then the latest. */
export const listRounds = query({
  admits: toCourse('sitting.see'),
  does({ db, courseId }): Result<HeldRound[]> {
    const rows = db
      .select({ sitting, held: round })
      .from(round)
      .innerJoin(sitting, eq(sitting.id, round.sittingId))
      .where(eq(sitting.courseId, courseId))
      .orderBy(sql`${round.stoppedAt} is not null`, desc(sitting.opens), desc(sitting.createdAt))
      .all();
    const counted = db
      .select({
        sittingId: attempt.sittingId,
        people: sql<number>`count(distinct ${attempt.id})`,
        mean: meanPercent,
      })
      .from(attempt)
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .leftJoin(handset, eq(handset.userId, attempt.userId))
      .leftJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
      .leftJoin(sql`mark m`, countingMark)
      .where(and(eq(sitting.courseId, courseId), eq(sitting.isRound, true), takesPart('real')))
      .groupBy(attempt.sittingId)
      .all();
    const by = new Map(counted.map((one) => [one.sittingId, one]));
    return ok(
      rows.map(({ sitting: row, held }): HeldRound => {
        const own = by.get(row.id);
        return {
          sittingId: row.id,
          examId: row.examId,
          title: row.title,
          opens: row.opens,
          stoppedAt: held.stoppedAt,
          pace: held.rules.pace,
          counts: held.rules.counts,
          onTheSpot: held.onTheSpot,
          people: own?.people ?? 0,
          mean: own?.mean ?? null,
        };
      }),
    );
  },
});

/** One question over the rounds in which it was asked. */
export type AskedBefore = {
  questionId: string;
  name: string;
  rounds: { sittingId: string; title: string; opens: Instant | null; people: number; mean: number | null }[];
};

/** The same questions over rounds: each that was asked in more than one, the latest round first. */
export const askedOverRounds = query({
  admits: toCourse('sitting.see'),
  does({ db, courseId }): Result<AskedBefore[]> {
    const rows = db
      .select({
        questionId: paperSlot.questionId,
        versionId: sql<string>`max(${paperSlot.versionId})`,
        sittingId: sitting.id,
        title: sitting.title,
        opens: sitting.opens,
        people: sql<number>`count(distinct ${attempt.id})`,
        mean: meanPercent,
      })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .leftJoin(handset, eq(handset.userId, attempt.userId))
      .leftJoin(sql`mark m`, countingMark)
      .where(and(eq(sitting.courseId, courseId), eq(sitting.isRound, true), takesPart('real')))
      .groupBy(paperSlot.questionId, sitting.id)
      .orderBy(desc(sitting.opens))
      .all();
    const by = new Map<string, (typeof rows)[number][]>();
    for (const one of rows) by.set(one.questionId, [...(by.get(one.questionId) ?? []), one]);
    const contents = frozenContents(
      db,
      rows.map((one) => one.versionId),
    );
    return ok(
      [...by.values()].flatMap((own): AskedBefore[] => {
        const [latest] = own;
        const content = latest && contents.get(latest.versionId);
        if (!latest || !content || own.length < 2) return [];
        return [
          {
            questionId: latest.questionId,
            name: stemLine(content),
            rounds: own.map(({ sittingId, title, opens, people, mean }) => ({ sittingId, title, opens, people, mean })),
          },
        ];
      }),
    );
  },
});
