import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, describe, expect, it, vi } from 'vitest';
import type { Thing } from '@/core/base/id';
import { day, minute, second } from '@/core/base/time';
import { anonymousAnswer, attempt, paperSlot } from '@/db/schema';
import type { Actor, Context } from '../house/context';
import type { AnyUseCase } from '../house/useCase';
import { printer } from '../print/printApart';
import { sittingAnswers } from '../release/answerTally';
import { sampleOf, turnsOf } from '../testing/sampleOf';
import { must, School } from '../testing/school';
import { giveSurvey } from '../testing/survey';
import { handIn } from './handIn';
import { startAttempt } from './startAttempt';
import { openForWriting } from './takeAttempt';

vi.spyOn(printer, 'print').mockImplementation(() => ({
  bytes: Promise.resolve(new Uint8Array()),
  end: () => undefined,
}));
afterAll(() => vi.restoreAllMocks());

const folder = mkdtempSync(join(tmpdir(), 'wuzzen-links-'));
vi.stubEnv('WUZZEN_DATA', folder);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const many = 12;
const schools = 25;
const onceOver = 40 * day;

function survey(students: number): { school: School; sittingId: string } {
  const school = new School(students);
  return { school, sittingId: giveSurvey(school) };
}

/** Starts as a person and brings the answers with the hand-in. */
function begin(school: School, sittingId: string, who: Actor, later: number) {
  const { attemptId } = must(startAttempt(school.as(who, later), sittingId));
  const opened = must(openForWriting(school.as(who, later), attemptId));
  const bring = (text: string, at: number) =>
    must(
      handIn(school.as(who, at), attemptId, {
        answers: opened.slots.map(({ slotId, view }) => ({
          slotId,
          value: view?.type === 'single-choice' ? { picked: view.choices[0]?.key } : { text },
        })),
      }),
    );
  return { attemptId, opened, bring };
}

type Row = Record<string, unknown>;

describe('whoever has everything that is stored and shown of an anonymous sitting', () => {
  it('guesses by any order of persons and any order of answers no better than by chance', () => {
    /** How many guesses were right, by how persons and answers were laid side by side, over all schools. */
    const right = new Map<string, number>();
    for (let n = 0; n < schools; n++) {
      const { school, sittingId } = survey(many);
      // They start and end in orders of their own, that differ from school to school.
      const places = school.students.map((who, i) => ({ who, start: (i * 7 + n) % many, end: (i * 5 + 3 * n) % many }));
      const under = new Map(
        [...places]
          .sort((a, b) => a.start - b.start)
          .map(({ who, start }) => [who, begin(school, sittingId, who, minute + start * second)] as const),
      );
      for (const { who, end } of [...places].sort((a, b) => a.end - b.end))
        under.get(who)?.bring(`wish of ${who.userId}`, 5 * minute + end * second);

      const attempts = school.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all();
      const stored = school.db.select().from(anonymousAnswer).all();
      const ownerOf = (sheet: string) => {
        const wish = JSON.stringify(stored.filter((row) => row.sheet === sheet));
        return school.students.find((who) => wish.includes(`wish of ${who.userId}`))?.userId;
      };
      const orders = (rows: readonly Row[], id: string): [string, string[]][] => [
        ['as they lie', rows.map((row) => String(row[id]))],
        ...Object.keys(rows[0] ?? {}).map((column): [string, string[]] => [
          column,
          [...rows].sort((a, b) => (String(a[column]) < String(b[column]) ? -1 : 1)).map((row) => String(row[id])),
        ]),
      ];
      const once = (ids: readonly string[]) => [...new Set(ids)];
      const page = must(sittingAnswers(school.as(school.teacher, onceOver), school.courseId, sittingId));
      const shown = page.questions?.find((question) => question.type === 'short-text')?.answers ?? [];
      const answers = [
        ...orders(stored, 'sheet').map(([by, ids]) => [by, once(ids).map(ownerOf)] as const),
        ['as they are shown', shown.map((one) => /wish of (\S+)/.exec(String(one.text))?.[1])] as const,
      ];
      const people = orders(attempts, 'userId');
      expect(answers.every(([, owners]) => owners.length === many)).toBe(true);
      for (const [byPerson, persons] of people)
        for (const [byAnswer, owners] of answers) {
          const pair = `${byPerson} × ${byAnswer}`;
          // The text itself names its writer here: by it the test knows the truth.
          if (byAnswer === 'value' || byAnswer === 'as they are shown') continue;
          const hits = persons.filter((person, i) => person === owners[i]).length;
          right.set(pair, (right.get(pair) ?? 0) + hits);
        }
    }
    // By chance one of each permutation is right, with a variance of one: over all schools their number, give or take.
    const most = schools + 5 * Math.sqrt(schools);
    expect(right.size).toBeGreaterThan(30);
    expect([...right].filter(([, hits]) => hits > most)).toEqual([]);
  });

  it('is shown the same of two people whose papers differ, while they write and afterwards', async () => {
    const { school, sittingId } = survey(many);
    const [one, other] = school.students as [Actor, Actor];
    const others = school.students.slice(2).map((who) => begin(school, sittingId, who, minute));
    const pair = [one, other].map((who) => ({ who, ...begin(school, sittingId, who, 2 * minute) }));
    const papers = pair.map(({ opened }) => JSON.stringify(opened.slots.map((slot) => slot.view)));
    expect(papers[0]).not.toBe(papers[1]);
    const slotsOf = (attemptId: string) =>
      school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).orderBy(paperSlot.position).all();
    const slots = new Map(pair.map(({ attemptId }) => [attemptId, slotsOf(attemptId)]));

    const modules = import.meta.glob<Record<string, unknown>>(['../**/*.ts', '!../**/*.test.ts', '!../testing/**'], {
      eager: true,
    });
    const queries = Object.values(modules).flatMap((exports) =>
      Object.entries(exports).filter(
        (entry): entry is [string, AnyUseCase] =>
          typeof entry[1] === 'function' &&
          'kind' in entry[1] &&
          entry[1].kind === 'query' &&
          (entry[1] as AnyUseCase).door.ids[0] === 'courseId',
      ),
    );
    expect(queries.length).toBeGreaterThan(60);
    let compared = 0;
    const differing: string[] = [];
    const look = async (when: string, context: Context) => {
      for (const [name, query] of queries)
        for (let turn = 0; turn < Math.max(1, ...query.takes.map(turnsOf)); turn++) {
          const said: string[] = [];
          for (const { who, attemptId } of pair) {
            const own = slots.get(attemptId) ?? [];
            const ids: Partial<Record<Thing, string>> = {
              course: school.courseId,
              bank: school.bankId,
              sitting: sittingId,
              user: who.userId,
              attempt: attemptId,
              slot: own[0]?.id,
              exam: school.db.$client.prepare('select id from exam').pluck().get() as string,
            };
            const idFor = (thing: Thing) => ids[thing] ?? 'none';
            const sent = query.takes.map((schema) => sampleOf(schema, idFor, turn));
            const door = query.door.ids.map((id) => idFor(id.replace(/Id$/, '') as Thing));
            const answer = await query({ ...context, files: folder }, ...door, ...sent);
            // What a stream says first is looked at by the tests of the room.
            if (!answer.ok || typeof answer.value === 'function') continue;
            let text = JSON.stringify(answer.value) ?? '';
            const known = [who.userId, who.name, attemptId, ...own.map((slot) => slot.id)];
            known.forEach((word, i) => {
              text = text.replaceAll(word, `#${i}`);
            });
            said.push(text);
          }
          if (said.length < 2) continue;
          // A list of everyone has both in it, each at their place: of what is not asked about one person, all is the same.
          compared += 1;
          const together = (text: string) =>
            pair.reduce(
              (all, { who, attemptId }) =>
                all.replaceAll(who.userId, '#0').replaceAll(who.name, '#1').replaceAll(attemptId, '#2'),
              text,
            );
          if (together(said[0] as string) !== together(said[1] as string)) differing.push(`${when}: ${name}`);
        }
    };
    await look('while they write', school.as(school.teacher, 3 * minute));
    for (const [i, { bring }] of [...others, ...pair].entries()) bring(`wish ${i}`, 5 * minute);
    await look('afterwards', school.as(school.teacher, onceOver));
    expect(compared).toBeGreaterThan(60);
    expect(differing).toEqual([]);
  });
});
