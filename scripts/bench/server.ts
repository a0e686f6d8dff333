import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { post, type Served, serve, signIn } from '../../e2e/serve';
import { localFromInstant } from '../../src/core/base/localTime';
import type { Result } from '../../src/core/base/result';
import { type Rich, richFromText } from '../../src/core/base/rich';
import { day, hour } from '../../src/core/base/time';
import { type Db, database } from '../../src/db/client';
import { migrateDatabase } from '../../src/db/migrate';
import { account, courseBank, user } from '../../src/db/schema';
import { seeCategories } from '../../src/server/bank/categories';
import { createQuestion } from '../../src/server/bank/questions';
import { createExam, openExam, saveExam } from '../../src/server/exam/exams';
import { newId } from '../../src/server/house/context';
import { claimFolder, keepOwnSecret } from '../../src/server/house/installation';
import { setPassword } from '../../src/server/people/auth';
import { beginCourse } from '../../src/server/people/courses';
import { addRoster, listPeople } from '../../src/server/people/roster';
import { saveSitting } from '../../src/server/sitting/saveRules';
import { createSitting } from '../../src/server/sitting/sittings';
import { scheduleAcknowledged } from '../../src/server/testing/scheduleAcknowledged';

export const benchPassword = 'bench-password-1';

function must<T>(result: Result<T>): T {
  if (!result.ok) throw new Error(result.problems.map((problem) => problem.message).join('; '));
  return result.value;
}

/** A text with a formula of its own in it: every question of the bench has to be typeset. */
const withMathematics = (text: string, n: number): Rich => ({
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: `${text} ` },
        { type: 'math', attrs: { tex: `\\frac{${n} + x^{2}}{\\sqrt{${n + 2}}}`, display: false } },
      ],
    },
  ],
});

/**
 * A class of the given size with one open sitting of 20 questions drawn from 120.
 *
 * @returns the ids of its course, bank and sitting
 */
async function makeClass(db: Db, students: number) {
  const now = Date.now();
  const teacher = { userId: newId(), name: 'Bench Teacher' };
  const at = new Date(now);
  db.insert(user)
    .values({ id: teacher.userId, name: teacher.name, email: 'teacher@bench.example', createdAt: at, updatedAt: at })
    .run();
  const context = { db, actor: teacher, now };
  const { courseId } = beginCourse(context, { name: 'Bench', term: '', timeZone: 'UTC' });
  must(
    addRoster(
      context,
      courseId,
      `name,email\n${Array.from({ length: students }, (_, i) => `Student ${i},student${i}@bench.example`).join('\n')}`,
    ),
  );
  const people = must(listPeople(context, courseId)).people;
  const [first] = people.filter((one) => one.role === 'student');
  // One hash serves everybody: the bench measures what comes after signing in.
  await setPassword(db, first?.userId ?? '', benchPassword);
  const known = db
    .select()
    .from(account)
    .where(eq(account.userId, first?.userId ?? ''))
    .get();
  if (!known) throw new Error('No account');
  for (const person of people)
    if (person.userId !== first?.userId)
      db.insert(account)
        .values({ ...known, id: newId(), accountId: person.userId, userId: person.userId })
        .run();

  const bankId = db.select().from(courseBank).where(eq(courseBank.courseId, courseId)).get()?.bankId ?? '';
  const category = must(seeCategories(context, courseId, bankId))[0]?.id ?? '';
  for (let n = 0; n < 120; n++) {
    const content =
      n % 3 === 2
        ? {
            type: 'numeric',
            stem: withMathematics(`How much is ${n} and ${n + 1}?`, n),
            feedback: {},
            accepted: [{ value: String(2 * n + 1), tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
          }
        : {
            type: 'single-choice',
            stem: withMathematics(`Which of these belongs to ${n}?`, n),
            feedback: {},
            shuffle: true,
            choices: [0, 1, 2, 3].map((c) => ({
              id: `c${c}`,
              content: richFromText(`Choice ${c} of question ${n}`),
              right: c === 0,
              pinned: false,
            })),
          };
    must(
      createQuestion(context, courseId, bankId, {
        categoryId: category,
        shortName: `Q${n}`,
        difficulty: 'medium',
        points: 1,
        content,
      }),
    );
  }
  const { examId } = must(createExam(context, courseId, { title: 'Bench exam' }));
  const exam = must(openExam(context, courseId, examId));
  const part = exam.design.parts[0];
  if (!part) throw new Error('No part');
  const line = {
    kind: 'draw' as const,
    id: newId(),
    count: 20,
    points: 1,
    pool: { categories: [{ id: category, below: true }], difficulties: [] },
  };
  must(
    saveExam(context, courseId, examId, {
      title: exam.title,
      edit: exam.edit,
      design: { ...exam.design, parts: [{ ...part, lines: [line] }] },
    }),
  );
  const { sittingId } = must(createSitting(context, courseId, { examId }));
  const local = (moment: number) => localFromInstant(moment, 'UTC');
  must(
    saveSitting(context, courseId, sittingId, {
      title: 'Bench',
      opens: local(now - hour),
      closes: local(now + 2 * day),
      lastStart: '',
      due: '',
      timeLimitMinutes: 120,
      attemptsAllowed: 1,
      attemptCounts: 'best',
      who: { kind: 'course' },
      markerIds: [],
    }),
  );
  must(scheduleAcknowledged(context, courseId, sittingId));
  return { courseId, bankId, sittingId };
}

export type Bench = {
  served: Served;
  courseId: string;
  bankId: string;
  sittingId: string;
  cookies: string[];
  peakMemory: () => number;
  stop: () => Promise<void>;
};

/** A student of the class at their paper. */
export type Writer = { cookie: string; attemptId: string; epoch: number; slots: string[] };

/** Everyone who is signed in starts and opens their paper. */
export const beginWriting = ({ served: { origin }, cookies, sittingId }: Bench): Promise<Writer[]> =>
  Promise.all(
    cookies.map(async (cookie) => {
      const started = await post(origin, '/api/attempts/start', { sittingId }, cookie);
      const { attemptId } = (await started.json()) as { attemptId: string };
      const opened = await post(origin, `/api/attempts/${attemptId}/open`, null, cookie);
      const { epoch, slots } = (await opened.json()) as { epoch: number; slots: { slotId: string }[] };
      return { cookie, attemptId, epoch, slots: slots.map((slot) => slot.slotId) };
    }),
  );

/** Builds the app unless it is built. */
export function ensureBuilt(): void {
  if (existsSync('.next/BUILD_ID')) return;
  const built = spawnSync('npm', ['run', 'build'], { stdio: ['ignore', 'ignore', 'inherit'] });
  if (built.status !== 0) throw new Error('The build failed.');
}

/**
 * Serves the production build over a fresh folder with a class.
 *
 * @param signedIn how many of them are signed in
 */
export async function serveClass(students: number, signedIn = students): Promise<Bench> {
  ensureBuilt();
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-bench-'));
  process.env.WUZZEN_DATA = folder;
  (globalThis as { wuzzenDatabase?: Db }).wuzzenDatabase = undefined;
  const db = database();
  migrateDatabase(db, folder);
  claimFolder(db, 'test');
  keepOwnSecret(db, 'a secret of the bench that is long enough');
  const ids = await makeClass(db, students);
  db.$client.close();
  const served = await serve(folder, 'test');
  const cookies: string[] = [];
  for (let i = 0; i < signedIn; i += 10)
    cookies.push(
      ...(await Promise.all(
        Array.from({ length: Math.min(10, signedIn - i) }, (_, k) =>
          signIn(served.origin, `student${i + k}@bench.example`, benchPassword),
        ),
      )),
    );
  return {
    served,
    ...ids,
    cookies,
    peakMemory: () => {
      const line = /VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${served.process.pid}/status`, 'utf8'))?.[1];
      return Number(line ?? 0) / 1024;
    },
    stop: async () => {
      await served.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
