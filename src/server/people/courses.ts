import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Role } from '@/core/people/policy';
import { termInput } from '@/core/sitting/term';
import type { Db } from '@/db/client';
import { course, courseBank, membership } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { joinedWithKept } from '../house/keptMeanwhile';
import { command, query } from '../house/useCase';
import { writing } from '../house/writing';
import { type BankElsewhere, banksTaught, insertBank } from './courseBanks';
import type { Admission } from './permission';
import { timeZoneInput } from './personFields';
import { toAnyCourse } from './toAnyCourse';
import { toCourse } from './toCourse';

type MyCourse = { id: string; name: string; term: string; role: Role };

/** The courses a person has a part in, by name. */
export function myCourses(db: Db, userId: string): MyCourse[] {
  return db
    .select({ id: course.id, name: course.name, term: course.term, role: membership.role })
    .from(membership)
    .innerJoin(course, eq(course.id, membership.courseId))
    .where(and(eq(membership.userId, userId), isNull(membership.removedAt), isNull(course.archivedAt)))
    .orderBy(asc(course.name))
    .all();
}

/** Admits to a course for the bar on top of every page: what it is called and what one is there. */
export const seeCourse = query({
  admits: toCourse('course.see'),
  does: ({ courseId, role, timeZone, courseName }): Result<Admission> => ok({ courseId, role, timeZone, courseName }),
});

const courseInput = z.object({
  name: z.string().trim().min(1, 'Give the course a name.').max(120),
  term: z.string().trim().max(60),
  timeZone: timeZoneInput,
});

/**
 * Begins a course: the actor becomes its instructor, and it uses the named banks of courses that they teach, or else gets
 * one of its own.
 */
export const createCourse = command({
  admits: toAnyCourse('course.create', 'Only people who teach a course can begin another.'),
  takes: [courseInput.extend({ banks: z.array(id('bank')).max(100).default([]) })],
  logs: 'course.create',
  does({ tx, context }, { banks, ...fields }): Result<Begun> {
    const known = new Set(banksTaught(tx, context.actor.userId, null).map((one) => one.id));
    if (banks.some((one) => !known.has(one))) return notFound('bank');
    return ok(beginCourse(context, fields, banks));
  },
});

/** What a new course begins with: the time zone of the last one this person has a part in, and the banks they could use. */
export function newCourseBeginning({ db, actor }: Context): { timeZone: string; banks: BankElsewhere[] } {
  const last = db
    .select({ timeZone: course.timeZone })
    .from(membership)
    .innerJoin(course, eq(course.id, membership.courseId))
    .where(and(eq(membership.userId, actor.userId), isNull(membership.removedAt)))
    .orderBy(desc(course.createdAt))
    .get();
  return { timeZone: last?.timeZone ?? 'UTC', banks: banksTaught(db, actor.userId, null) };
}

type Begun = { courseId: string; bankId: string };

/** The part of {@link createCourse} that needs no permission: also used when a new installation is set up. */
export function beginCourse(
  context: Context,
  fields: z.output<typeof courseInput>,
  banks: readonly string[] = [],
): Begun {
  const courseId = newId();
  let bankId = banks[0] ?? '';
  writing(context, (tx, within) => {
    tx.insert(course)
      .values({ id: courseId, ...fields, createdAt: context.now })
      .run();
    tx.insert(membership)
      .values({ id: newId(), courseId, userId: context.actor.userId, role: 'instructor', addedAt: context.now })
      .run();
    if (banks.length)
      tx.insert(courseBank)
        .values([...new Set(banks)].map((one) => ({ courseId, bankId: one })))
        .run();
    else bankId = insertBank(tx, within, courseId, fields.name);
    record(tx, within, { action: 'course.create', courseId, subjectId: courseId, detail: fields });
    return ok(null);
  });
  return { courseId, bankId };
}

const changeInput = courseInput.extend({
  /** Empty where nobody has said when teaching begins. */
  firstDay: z.union([z.literal(''), termInput.shape.firstDay]),
  freeDays: termInput.shape.freeDays,
});

export type CourseFields = z.output<typeof changeInput>;

const fieldsOf = ({ name, term, timeZone, firstDay, freeDays }: typeof course.$inferSelect): CourseFields => ({
  name,
  term,
  timeZone,
  firstDay: firstDay ?? '',
  freeDays: freeDays ?? [],
});

/** Name, term and time zone of a course, and when it teaches. */
export const courseFields = query({
  admits: toCourse('people.change'),
  does({ courseId, context }): Result<CourseFields> {
    const row = context.db.select().from(course).where(eq(course.id, courseId)).get();
    if (!row) return notFound('course');
    return ok(fieldsOf(row));
  },
});

/** Changes name, term and time zone, and when the course teaches. What others have changed since it was seen stays. */
export const changeCourse = command({
  admits: toCourse('people.change'),
  takes: [changeInput, changeInput.optional()],
  logs: 'course.change',
  does({ tx, courseId, record }, input, seen): Result<null> {
    const row = tx.select().from(course).where(eq(course.id, courseId)).get();
    if (!row) return notFound('course');
    const joined = joinedWithKept(seen, input, fieldsOf(row), 'fields of the course');
    if (!joined.ok) return joined;
    const { firstDay, ...fields } = joined.value;
    tx.update(course)
      .set({ ...fields, firstDay: firstDay || null })
      .where(eq(course.id, courseId))
      .run();
    record({ subjectId: courseId, detail: joined.value });
    return ok(null);
  },
});
