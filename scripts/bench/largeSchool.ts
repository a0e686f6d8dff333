import { eq, like, sql } from 'drizzle-orm';
import type { Db } from '../../src/db/client';
import { category, question, user } from '../../src/db/schema';
import { bringIn } from '../../src/server/bringIn/bringIn';
import { addRoster } from '../../src/server/people/roster';
import { must } from '../../src/server/testing/school';
import { exampleQuestions } from './exampleBank';

/** How large the large school is: questions of its bank and students of its course. */
export const large = { questions: 5_000, students: 500 };

/**
 * Makes the demo large: its bank holds 5,000 questions and its course 500 students, each of whom has taken what a
 * student of the demo has taken, with papers, answers, marks and published results copied from one of them in turn.
 */
export function enlarge(db: Db, courseId: string, now: number): void {
  const teacher = db.select().from(user).where(like(user.email, 'ingrid.sollie@%')).get();
  const home = db.select().from(question).where(eq(question.shortName, 'Isophase')).get();
  if (!teacher || !home) throw new Error('The demo is not here.');
  const context = { db, actor: { userId: teacher.id, name: teacher.name }, now };
  const categories = db.select({ id: category.id }).from(category).where(eq(category.bankId, home.bankId)).all();
  const held = db.select({ id: question.id }).from(question).where(eq(question.bankId, home.bankId)).all().length;
  const items = exampleQuestions(large.questions - held).map((content, i) => ({
    content,
    shortName: `${['Bearing', 'Light list', 'Tidal height', 'Sound signal'][i % 4]} of the ${i + 1}th page, second edition`,
    difficulty: (['easy', 'medium', 'hard'] as const)[i % 3],
  }));
  const share = Math.ceil(items.length / categories.length);
  categories.forEach(({ id }, i) => {
    const some = items.slice(i * share, (i + 1) * share);
    if (some.length) must(bringIn(context, courseId, home.bankId, { categoryId: id, items: some }));
  });

  const before = db.all<{ id: string }>(
    sql`select user_id as id from membership where course_id = ${courseId} and role = 'student'`,
  );
  const more = Array.from(
    { length: large.students - before.length },
    (_, i) => `Maximiliana Featherstonehaugh-Okonkwo ${i + 1},copy${i + 1}@ternpoint.example`,
  );
  must(addRoster(context, courseId, `name,email\n${more.join('\n')}`));
  const added = db.all<{ id: string }>(sql`select id from user where email like 'copy%@ternpoint.example'`);
  db.transaction(
    () => {
      db.run(sql`create temp table twin (new_user text primary key, old_user text)`);
      added.forEach(({ id }, i) => {
        db.run(sql`insert into twin values (${id}, ${before[i % before.length]?.id ?? ''})`);
      });
      copyRows(
        db,
        'attempt',
        'twin on twin.old_user = t.user_id',
        { id: "t.id || '/' || twin.new_user", user_id: 'twin.new_user' },
        "t.state <> 'running'",
      );
      db.run(sql`create temp table go as select t.id as old_id, t.id || '/' || twin.new_user as new_id
        from attempt t join twin on twin.old_user = t.user_id where t.state <> 'running'`);
      const ofAttempt = { attempt_id: 'go.new_id' };
      const slot = (column: string) => `t.${column} || '/' || go.new_id`;
      copyRows(db, 'paper_slot', 'go on go.old_id = t.attempt_id', { ...ofAttempt, id: slot('id') });
      copyRows(db, 'response', 'go on go.old_id = t.attempt_id', { ...ofAttempt, slot_id: slot('slot_id') });
      copyRows(db, 'mark', 'paper_slot p on p.id = t.slot_id join go on go.old_id = p.attempt_id', {
        id: null,
        slot_id: slot('slot_id'),
      });
      copyRows(db, 'publication', 'twin on twin.old_user = t.user_id', { id: null, user_id: 'twin.new_user' });
    },
    { behavior: 'immediate' },
  );
  db.run(sql`analyze`);
}

/**
 * Copies rows of a table with some columns changed.
 *
 * @param join what the rows `t` are joined with, as SQL
 * @param changed for a column the SQL of its new value; null leaves it out, for a number of its own
 */
function copyRows(db: Db, table: string, join: string, changed: Record<string, string | null>, where = 'true'): void {
  const columns = db
    .all<{ name: string }>(sql.raw(`pragma table_info(${table})`))
    .map((one) => one.name)
    .filter((name) => changed[name] !== null);
  const values = columns.map((name) => changed[name] ?? `t.${name}`);
  db.run(sql.raw(`insert into ${table} (${columns}) select ${values} from ${table} t join ${join} where ${where}`));
}
