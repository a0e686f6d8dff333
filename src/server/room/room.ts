import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Phase } from '@/core/attempt/attemptMachine';
import { longestRuler } from '@/core/attempt/paperRuler';
import { type RulerInShort, rulerInShort } from '@/core/attempt/rulerInShort';
import type { EndedBy } from '@/core/attempt/standing';
import type { Waiting } from '@/core/attempt/waiting';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Duration, Instant } from '@/core/base/time';
import { inNameOrder } from '@/core/people/names';
import { leakKey } from '@/core/release/leakCheck';
import { clockFor, soFarOf } from '@/core/sitting/clock';
import { type OwnTimes, ownTimes } from '@/core/sitting/myClock';
import { leakSaid } from '@/core/sitting/preflight';
import { type Arrangement, noArrangement } from '@/core/sitting/rules';
import { startSaid } from '@/core/sitting/startSaid';
import type { Db } from '@/db/client';
import { attempt, paperSlot, response } from '@/db/schema';
import { lastContactOf } from '../attempt/contacts';
import type { Context } from '../house/context';
import { query } from '../house/useCase';
import { nameOrderOf } from '../people/nameOrder';
import { type AudienceMember, audienceOf, rulesOf, type SittingRow } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { asidesWaiting, waitingInSitting } from '../records/waiting';
import { leaksOf } from '../sitting/leaksOf';
import { toSitting } from '../sitting/toSitting';

/** One student as their invigilator sees them. */
export type RoomRow = {
  userId: string;
  name: string;
  section: string | null;
  excused: boolean;
  /** Their latest attempt; null while they have not come. */
  attempt: {
    id: string;
    number: number;
    phase: Phase;
    startedAt: Instant;
    endedAt: Instant | null;
    endedBy: EndedBy | null;
    deadline: Instant | null;
    added: Duration;
    lastContact: Instant | null;
    questions: number;
    answered: number;
    /** The paper as a ruler, in short; empty where it is too long to be drawn. */
    signs: RulerInShort;
  } | null;
  attempts: number;
  /** Why they cannot start, in words; null when they can, or are writing. */
  whyNot: string | null;
  /** Whether they wait to be let through to the next attempt. */
  waitsToBeLetThrough: boolean;
  /** Answers that were kept aside and are not decided on. */
  aside: number;
  /** Their own times; null where they are those of the room. */
  times: OwnTimes | null;
  /** The first moment at which they can start, where that lies ahead; null where they can, or never. */
  startsAt: Instant | null;
};

export type Room = {
  title: string;
  timeZone: string;
  courseName: string;
  now: Instant;
  closes: Instant | null;
  timeLimit: Duration | null;
  /** The times of whoever has nothing arranged. */
  times: OwnTimes;
  anonymous: boolean;
  rows: RoomRow[];
  /** Leaks that nobody has taken upon themselves, in words. */
  leaks: string[];
  /** What waits for a decision. */
  waiting: Waiting;
};

/** The rows of some students, or of all: in a few statements, however many there are. */
export function roomRows(
  context: Context,
  row: SittingRow,
  timeZone: string,
  now: Instant,
  only?: ReadonlySet<string>,
): RoomRow[] {
  const { db } = context;
  const students = inNameOrder(
    audienceOf(db, row).filter((student) => !only || only.has(student.userId)),
    nameOrderOf(context),
  );
  const wanted = only && only.size <= 200 ? inArray(attempt.userId, [...only]) : undefined;
  const attempts = db
    .select()
    .from(attempt)
    .where(and(eq(attempt.sittingId, row.id), wanted))
    .orderBy(asc(attempt.number))
    .all();
  const byUser = new Map<string, (typeof attempts)[number][]>();
  for (const one of attempts) {
    const own = byUser.get(one.userId);
    if (own) own.push(one);
    else byUser.set(one.userId, [one]);
  }
  const papers = papersOf(db, row, wanted);
  const aside = asidesWaiting(db, { sittingId: row.id });
  return students.map((student) =>
    describe(row, student, byUser.get(student.userId) ?? [], papers, aside, timeZone, now),
  );
}

type AttemptRow = typeof attempt.$inferSelect;
type Paper = { number: number; partTitle: string; answered: boolean; comeBack: boolean }[];

function describe(
  row: SittingRow,
  student: AudienceMember,
  own: readonly AttemptRow[],
  papers: ReadonlyMap<string, Paper>,
  aside: ReadonlyMap<string, number>,
  timeZone: string,
  now: Instant,
): RoomRow {
  const last = own.at(-1);
  const soFar = soFarOf(own);
  const { start, running } = clockFor(rulesOf(row), timeZone, student.arrangement, soFar, now);
  const paper = (last && papers.get(last.id)) ?? [];
  return {
    userId: student.userId,
    name: student.name,
    section: student.section,
    excused: student.arrangement.excused,
    attempt: last
      ? {
          id: last.id,
          number: last.number,
          phase: last.state,
          startedAt: last.startedAt,
          endedAt: last.endedAt,
          endedBy: last.endedBy,
          deadline: last.state === 'running' ? (running?.deadline ?? null) : null,
          added: last.added,
          lastContact: last.state === 'running' ? lastContactOf(last) : null,
          questions: paper.length,
          answered: paper.filter((one) => one.answered).length,
          signs: paper.length > longestRuler ? [] : rulerInShort(paper),
        }
      : null,
    attempts: soFar.used,
    whyNot: start.may || start.why === 'running' ? null : startSaid(start, timeZone, now, 'staff'),
    waitsToBeLetThrough: !start.may && start.why === 'not-let-through',
    aside: own.reduce((sum, one) => sum + (aside.get(one.id) ?? 0), 0),
    times: timesOf(row, student.arrangement),
    startsAt: !start.may && start.at !== null && start.at > now ? start.at : null,
  };
}

/** The times of a student who has some of their own. */
function timesOf(row: SittingRow, arrangement: Arrangement): OwnTimes | null {
  const [own, ofRoom] = [arrangement, noArrangement].map((one) => ownTimes(rulesOf(row), one));
  return own && JSON.stringify(own) !== JSON.stringify(ofRoom) ? own : null;
}

/** What of each paper is answered. Tens of thousands of slots come as bare values. */
function papersOf(
  db: Db,
  { id, anonymous }: SittingRow,
  wanted: ReturnType<typeof inArray> | undefined,
): Map<string, Paper> {
  const slots = db
    .select({
      attemptId: paperSlot.attemptId,
      position: paperSlot.position,
      partTitle: paperSlot.partTitle,
      answered: sql<number>`${response.value} is not null and ${response.value} <> 'null'`,
      comeBack: sql<number>`coalesce(${response.comeBack}, 0)`,
    })
    .from(attempt)
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(and(eq(attempt.sittingId, id), wanted))
    .orderBy(asc(paperSlot.attemptId), asc(paperSlot.position))
    .values() as [string, number, string, number, number][];
  const papers = new Map<string, Paper>();
  for (const [attemptId, position, partTitle, answered, comeBack] of slots) {
    const sign = {
      number: position + 1,
      partTitle,
      // Anonymous answers lie in the browsers: nothing of them is known here.
      answered: !anonymous && answered === 1,
      comeBack: !anonymous && comeBack === 1,
    };
    const own = papers.get(attemptId);
    if (own) own.push(sign);
    else papers.set(attemptId, [sign]);
  }
  return papers;
}

/** The leaks of a sitting that nobody has taken upon themselves: more time for one makes another of what was read before. */
export function openLeaks(db: Db, row: SittingRow, timeZone: string, now: Instant): string[] {
  const known = new Set((row.acknowledged ?? []).map((one) => one.key));
  return leaksOf(db, row, pinnedDesign(db, row.revisionId), now)
    .filter((leak) => !known.has(leakKey(leak)))
    .map((leak) => leakSaid(leak, timeZone));
}

/** The room of a sitting as it is now. */
export const seeRoom = query({
  admits: toSitting('sitting.invigilate'),
  does({ context, timeZone, courseName, sitting: row }): Result<Room> {
    if (row.state === 'draft' || row.isRound) return notFound('sitting');
    return ok({
      title: row.title,
      timeZone,
      courseName,
      now: context.now,
      closes: row.closes,
      timeLimit: row.timeLimit,
      times: ownTimes(rulesOf(row), noArrangement),
      anonymous: row.anonymous,
      rows: roomRows(context, row, timeZone, context.now),
      leaks: openLeaks(context.db, row, timeZone, context.now),
      waiting: waitingInSitting(context.db, row.id),
    });
  },
});
