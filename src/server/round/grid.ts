import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { isKeyed } from '@/core/exam/items/item';
import { type AnswerOutcome, outcomeOf } from '@/core/marking/outcome';
import { type QuestionContent, stemLine } from '@/core/question/content';
import { forStudent, readResponse, type ShownQuestion } from '@/core/question/student';
import { leakKey } from '@/core/release/leakCheck';
import { creditGiven, type Movement, type QuestionBars, rightSaid } from '@/core/round/bars';
import { type LedPhase, ledPhaseNow } from '@/core/round/ledRound';
import type { RoundRules } from '@/core/round/roundRules';
import { leakSaid } from '@/core/sitting/preflight';
import type { Db } from '@/db/client';
import { attempt, handset, membership, paperSlot, response, section, user, vote } from '@/db/schema';
import { lastContactOf } from '../attempt/contacts';
import type { Watch } from '../attempt/watchAttempt';
import { serverNow } from '../house/installation';
import { query } from '../house/useCase';
import { audienceOf, type SittingRow, sittingOf } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { type RoundRow, roundOf } from '../records/roundOf';
import { leaksOf } from '../sitting/leaksOf';
import { doorOf } from './doors';
import { listenToRound } from './hub';
import { askedOf, barsOf, movementOf, passageOf, roundQuestions, takesPart } from './questions';
import { toRound } from './toRound';

/** Somebody who came into a round, as whoever holds it sees them. */
export type GridPerson = {
  attemptId: string;
  userId: string;
  name: string;
  section: string | null;
  /** The four digits with which they go on at another device; null for whoever signed in. */
  wayBack: string | null;
  madeUp: boolean;
  cameInAt: Instant;
  lastContact: Instant | null;
  handedIn: boolean;
  /**
   * A sign for each question of their paper, in its order: `.` empty, `a` answered and not judged, `r` right, `p` partly
   * right, `w` wrong.
   */
  signs: string;
  answered: number;
  /** Whether they have answered the question that is open, in its vote; null where none is. */
  answeredNow: boolean | null;
  /** Share of the points of what was judged, in [0, 1]; null while nothing is. */
  share: number | null;
};

/** Where a led round is, with what only whoever leads it sees. */
export type LeadQuestion = {
  /** From 0. */
  at: number;
  phase: LedPhase;
  vote: number;
  openedAt: Instant | null;
  endsAt: Instant | null;
  view: ShownQuestion;
  passage: Rich | null;
  bars: QuestionBars[];
  movement: Movement | null;
  right: string;
  /** Asked on the spot, and its key not given. */
  lacksKey: boolean;
};

/** What stands above the grid of a round. */
export type RoundHead = {
  title: string;
  courseName: string;
  door: string | null;
  rules: RoundRules;
  onTheSpot: boolean;
  now: Instant;
  stoppedAt: Instant | null;
  /** What each question is called, and its phase where the round is led. */
  questions: { name: string; phase: LedPhase | null }[];
  question: LeadQuestion | null;
  /** Of the roster, who has not come in; none where people come in without names or by names they type. */
  notIn: string[];
  walkedTo: number | null;
};

export type RoundNews = { head: RoundHead; people: GridPerson[]; gone: string[]; all: boolean };

const signs: Record<AnswerOutcome, string> = { right: 'r', partly: 'p', wrong: 'w' };

/** The people who are in, or some of them: two statements, however many there are. */
export function gridPeople(db: Db, row: SittingRow, held: RoundRow, only?: ReadonlySet<string>): GridPerson[] {
  const few = only && only.size <= 200 ? inArray(attempt.userId, [...only]) : undefined;
  const rows = db
    .select({ attempt, name: user.name, section: section.name, device: handset })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .leftJoin(handset, sql`${handset.userId} = coalesce(${attempt.cameAs}, ${attempt.userId})`)
    .leftJoin(membership, and(eq(membership.courseId, row.courseId), eq(membership.userId, attempt.userId)))
    .leftJoin(section, eq(section.id, membership.sectionId))
    .where(and(eq(attempt.sittingId, row.id), takesPart('all'), few))
    .orderBy(asc(user.name))
    .all();
  const questions = roundQuestions(db, row, held);
  const slots = db
    .select({
      attemptId: paperSlot.attemptId,
      versionId: paperSlot.versionId,
      points: paperSlot.points,
      presentation: paperSlot.presentation,
      value: response.value,
    })
    .from(attempt)
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(and(eq(attempt.sittingId, row.id), few))
    .orderBy(asc(paperSlot.attemptId), asc(paperSlot.position))
    .all();
  const contents = frozenContents(db, [...new Set(slots.map((slot) => slot.versionId))]);
  const papers = new Map<string, { signs: string; answered: number; earned: number; possible: number }>();
  for (const slot of slots) {
    const content = contents.get(slot.versionId) as QuestionContent;
    const paper = papers.get(slot.attemptId) ?? { signs: '', answered: 0, earned: 0, possible: 0 };
    papers.set(slot.attemptId, paper);
    const isAnswered = Boolean(readResponse(content.type, slot.value));
    const credit = creditGiven(content, slot);
    paper.signs += !isAnswered ? '.' : credit === null ? 'a' : signs[outcomeOf(credit, 1)];
    if (isAnswered) paper.answered += 1;
    if (credit !== null) {
      paper.possible += slot.points;
      paper.earned += credit * slot.points;
    }
  }
  const answeredNow = answeredInVote(db, row.id, held, questions);
  return rows.map(({ attempt: one, name, section: inSection, device }) => {
    const paper = papers.get(one.id);
    return {
      attemptId: one.id,
      userId: one.userId,
      name,
      section: inSection,
      wayBack: device?.wayBack ?? null,
      madeUp: device?.madeUp ?? false,
      cameInAt: one.startedAt,
      lastContact: lastContactOf(one),
      handedIn: one.state !== 'running',
      signs: paper?.signs ?? '',
      answered: paper?.answered ?? 0,
      answeredNow: answeredNow === null ? null : answeredNow.has(one.id),
      share: paper && paper.possible > 0 ? paper.earned / paper.possible : null,
    };
  });
}

/** Who has answered the question that the class is at, in its vote; null where nothing is open. */
function answeredInVote(
  db: Db,
  sittingId: string,
  held: RoundRow,
  questions: readonly { questionId: string }[],
): Set<string> | null {
  const at = held.stoppedAt === null ? (held.led?.at ?? null) : null;
  const stands = at === null ? undefined : held.led?.questions[at];
  const question = at === null ? undefined : questions[at];
  if (!stands || !question || stands.phase !== 'open') return null;
  const rows = db
    .select({ attemptId: attempt.id })
    .from(vote)
    .innerJoin(paperSlot, eq(paperSlot.id, vote.slotId))
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .where(
      and(
        eq(attempt.sittingId, sittingId),
        eq(paperSlot.questionId, question.questionId),
        eq(vote.number, stands.vote),
        sql`${vote.value} is not null and ${vote.value} <> 'null'`,
      ),
    )
    .all();
  return new Set(rows.map((one) => one.attemptId));
}

export function roundHead(db: Db, row: SittingRow, held: RoundRow, courseName: string, now: Instant): RoundHead {
  const questions = roundQuestions(db, row, held);
  return {
    title: row.title,
    courseName,
    door: doorOf(db, row.courseId),
    rules: held.rules,
    onTheSpot: held.onTheSpot,
    now,
    stoppedAt: held.stoppedAt,
    questions: questions.map(({ content }, i) => {
      const stands = held.led?.questions[i];
      return { name: stemLine(content), phase: stands ? ledPhaseNow(stands, now) : null };
    }),
    question: leadQuestion(db, row, held, now),
    notIn: notIn(db, row, held),
    walkedTo: held.walkedTo,
  };
}

function leadQuestion(db: Db, row: SittingRow, held: RoundRow, now: Instant): LeadQuestion | null {
  const at = held.stoppedAt === null ? (held.led?.at ?? null) : held.walkedTo;
  const question = at === null ? undefined : roundQuestions(db, row, held)[at];
  const stands = at === null ? undefined : held.led?.questions[at];
  if (at === null || !question) return null;
  const asked = askedOf(db, row.id, question.questionId, 'all');
  const votes = held.led ? ([1, 2] as const).slice(0, stands?.vote ?? 1) : [null];
  return {
    at,
    phase: held.stoppedAt !== null ? 'shown' : stands ? ledPhaseNow(stands, now) : 'ahead',
    vote: stands?.vote ?? 1,
    openedAt: stands?.openedAt ?? null,
    endsAt: stands?.endsAt ?? null,
    view: forStudent(question.content, question.presentation),
    passage: passageOf(db, row.id, question.questionId),
    bars: votes.map((number) => barsOf(question, asked, number)),
    movement: (stands?.vote ?? 1) > 1 ? movementOf(question, asked) : null,
    right: rightSaid(question.content, question.presentation),
    lacksKey: !isKeyed(question.content),
  };
}

/** Those on the roster who have not come in, where it is known who is in. */
function notIn(db: Db, row: SittingRow, held: RoundRow): string[] {
  const way = held.rules.comingIn;
  if (way !== 'sign-in' && way !== 'number') return [];
  const there = db
    .select({ userId: attempt.userId, number: handset.studentNumber })
    .from(attempt)
    .leftJoin(handset, eq(handset.userId, attempt.userId))
    .where(and(eq(attempt.sittingId, row.id), takesPart('all')))
    .all();
  const inAs = new Set(there.map((one) => one.userId));
  const numbers = new Set(there.flatMap((one) => one.number ?? []));
  return audienceOf(db, row)
    .filter((one) => !inAs.has(one.userId) && !numbers.has((one.studentNumber ?? '').toLowerCase()))
    .filter((one) => one.email !== null || one.studentNumber !== null)
    .map((one) => one.name);
}

/** A round as whoever holds it sees it. */
export const seeRound = query({
  admits: toRound('sitting.invigilate'),
  does({ db, now, sitting: row, held, courseName }): Result<RoundNews> {
    const head = roundHead(db, row, held, courseName, now);
    return ok({ head, people: gridPeople(db, row, held), gone: [], all: true });
  },
});

/** What of a round devices are not told, because others may be writing the same questions: why, and by which key it is taken on. */
export type HeldBack = { key: string; said: string }[];

/** What is held back of a round and nobody has taken on. */
export const seeHeldBack = query({
  admits: toRound('sitting.invigilate'),
  does({ db, now, sitting: row, timeZone }): Result<HeldBack> {
    const known = new Set((row.acknowledged ?? []).map((one) => one.key));
    return ok(
      leaksOf(db, row, pinnedDesign(db, row.revisionId), now)
        .map((leak) => ({ key: leakKey(leak), said: leakSaid(leak, timeZone) }))
        .filter(({ key }) => !known.has(key)),
    );
  },
});

/** How long answers are gathered, so that three hundred at once cost one look. */
const gatherFor = 1_000;

const watching = toRound('sitting.invigilate');

/** Watches a round: everyone at once, and then those about whom something is new; a new phase at once. */
export const watchRound = query({
  admits: watching,
  does({ context, db, courseId, sittingId, courseName }): Result<Watch<RoundNews>> {
    return ok((see, end) => {
      let about = new Set<string>();
      let everyone = true;
      let timer: ReturnType<typeof setTimeout> | null = null;
      let stopped = false;
      const look = () => {
        if (timer) clearTimeout(timer);
        timer = null;
        if (stopped) return;
        if (!watching.open(context, courseId, sittingId).ok) return void end?.();
        const row = sittingOf(db, courseId, sittingId);
        const held = roundOf(db, sittingId);
        if (!row || !held) return;
        const asked = about;
        const all = everyone;
        about = new Set();
        everyone = false;
        const people = all || asked.size > 0 ? gridPeople(db, row, held, all ? undefined : asked) : [];
        const there = new Set(people.map((one) => one.userId));
        const gone = all ? [] : [...asked].filter((id) => !there.has(id));
        see({ head: roundHead(db, row, held, courseName, serverNow()), people, gone, all });
      };
      const stop = listenToRound(db, sittingId, (news) => {
        if (news.userId) about.add(news.userId);
        else everyone = true;
        if (news.what === 'round') setImmediate(look);
        else timer ??= setTimeout(look, gatherFor);
      });
      look();
      return () => {
        stopped = true;
        if (timer) clearTimeout(timer);
        stop();
      };
    });
  },
});
