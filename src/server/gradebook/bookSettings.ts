import { and, eq, isNull, max } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { isAlike, merged } from '@/core/base/merge';
import { notFound, ok, type Problem, type Result, refused } from '@/core/base/result';
import { bandProblems } from '@/core/gradebook/bands';
import { weightsProblems } from '@/core/gradebook/gradebookRules';
import { bandsSaid } from '@/core/gradebook/settingsSaid';
import type { Db, Tx } from '@/db/client';
import { course, gradeColumn, gradeGroup, sitting } from '@/db/schema';
import { newId } from '../house/context';
import { keptMeanwhile } from '../house/keptMeanwhile';
import { command } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { sittingOf } from '../records/audience';
import { gradebookRulesOf } from '../records/bandsHeld';
import { toSitting } from '../sitting/toSitting';
import { bookData, groupsOf } from './bookData';
import { watchSettings } from './settingsHistory';

const label = z.string().trim().max(60, 'At most 60 characters.');
const points = (most: number) =>
  z.number({ message: 'Give a number.' }).min(0, 'A number from 0 up.').max(most, `At most ${most}.`);

const bandsInput = z
  .array(
    z.strictObject({
      label,
      from: z.number({ message: 'A boundary is a number of percent.' }),
      comment: z.string().trim().max(2_000, 'At most 2,000 characters.'),
    }),
  )
  .max(30, 'At most 30 bands.');

const rulesInput = z
  .strictObject({
    missing: z.enum(['zero', 'not-yet']),
    decimals: z.int().min(0).max(3),
    bands: bandsInput,
    showsTotal: z.boolean(),
  })
  .partial();

const groupsInput = z
  .array(
    z.strictObject({
      id: z.string().max(60),
      title: label.min(1, 'Give the group a title.'),
      weight: points(10_000),
      counting: z.enum(['points', 'equal']),
      drop: z.int('A whole number.').min(0).max(50, 'At most 50.'),
    }),
  )
  .max(30, 'At most 30 groups.');

const columnInput = z
  .strictObject({
    title: z.string().trim().min(1, 'Give the column a title.').max(120, 'At most 120 characters.'),
    worth: points(100_000).nullable(),
    groupId: id('group').nullable(),
    extraCredit: z.boolean(),
    curve: z
      .discriminatedUnion('kind', [
        z.strictObject({ kind: z.literal('add'), points: points(100_000) }),
        z.strictObject({ kind: z.literal('to-maximum') }),
      ])
      .nullable(),
    late: z
      .strictObject({
        perDay: z.number().min(0, 'From 0 to 100 %.').max(1, 'From 0 to 100 %.'),
        floor: z.number().min(0, 'From 0 to 100 %.').max(1, 'From 0 to 100 %.'),
      })
      .nullable(),
  })
  .partial();

/** What stood on the page when it was changed there; without it what is sent holds as it is. */
const seenInput = z
  .strictObject({ rules: rulesInput, groups: groupsInput, bands: bandsInput.nullable() })
  .partial()
  .optional();

/** Problems of bands as problems of a form: each at its band. */
const bandsRefused = (bands: z.output<typeof bandsInput>): Problem[] =>
  bandProblems(bands).map(({ index, field, message }) => ({
    code: 'bad-input',
    field: `bands.${index}.${field}`,
    message,
  }));

/** Everything by which totals are computed and shown; what is not named stays as it is. */
export const numbersInput = z
  .strictObject({
    rules: rulesInput,
    /** All groups in their order. One without an id is new; columns of a group that is left out are in none. */
    groups: groupsInput,
    columns: z.record(id('column'), columnInput),
  })
  .partial();
export type NumbersInput = z.output<typeof numbersInput>;

/** What is wrong with numbers whatever the gradebook holds, each problem at its place. */
export function numbersRefused({ rules, groups }: NumbersInput): Problem[] {
  const [weights] = weightsProblems(groups ?? [], 0).filter((one) => one.kind === 'error');
  return [
    ...bandsRefused(rules?.bands ?? []),
    ...(weights ? [{ code: 'bad-input' as const, field: 'groups', message: weights.message }] : []),
  ];
}

/** Sets how totals are computed and shown: all that is named, or nothing of it. */
export const saveNumbers = command({
  admits: toCourse('gradebook.change'),
  takes: [numbersInput, seenInput],
  logs: 'gradebook.numbers',
  does({ tx, courseId, record }, input, seen): Result<null> {
    const problems = numbersRefused(input);
    if (problems.length) return { ok: false, problems };
    const changed = watchSettings(tx, courseId);
    const { rules, columns } = input;
    if (rules) {
      const now = gradebookRulesOf(tx, courseId);
      const joined = merged({ ...now, ...seen?.rules }, { ...now, ...seen?.rules, ...rules }, now);
      if (joined.clashes.length)
        return {
          ok: false,
          problems: [keptMeanwhile(joined.clashes.some((one) => one.path[0] === 'bands') ? 'bands' : 'rules')],
        };
      tx.update(course).set({ gradebook: joined.value }).where(eq(course.id, courseId)).run();
    }
    const joined = input.groups && merged(seen?.groups ?? groupsOf(tx, courseId), input.groups, groupsOf(tx, courseId));
    if (joined?.clashes.length) return { ok: false, problems: [keptMeanwhile('groups')] };
    const groups = joined?.value;
    if (groups) {
      const together = numbersRefused({ groups });
      if (together.length) return { ok: false, problems: together };
      setGroups(tx, courseId, groups);
    }
    for (const [columnId, part] of Object.entries(columns ?? {})) {
      const set = setColumn(tx, courseId, columnId, part);
      if (!set.ok) return set;
    }
    record({
      subjectId: courseId,
      detail: { ...input, groups: groups?.map(({ title, weight }) => ({ title, weight })), ...changed() },
    });
    return ok(null);
  },
});

/** Gives a sitting bands of its own, or, without any, those of the course again. */
export const saveSittingBands = command({
  admits: toSitting('gradebook.change'),
  takes: [bandsInput.nullable(), seenInput],
  logs: 'gradebook.sitting-bands',
  does({ tx, courseId, sittingId, record }, bands, seen): Result<null> {
    const problems = bandsRefused(bands ?? []);
    if (problems.length) return { ok: false, problems };
    const row = sittingOf(tx, courseId, sittingId);
    const now = row?.bands ?? null;
    if (seen?.bands !== undefined && merged(seen.bands, bands, now).clashes.length)
      return { ok: false, problems: [keptMeanwhile('bands')] };
    tx.update(sitting).set({ bands }).where(eq(sitting.id, sittingId)).run();
    const words = (own: typeof now) => (own === null ? 'those of the course' : bandsSaid(own));
    record({
      subjectId: courseId,
      detail: {
        sittingId,
        bands: bands?.length ?? null,
        said: isAlike(now, bands) ? [] : [`Bands of ${row?.title}: ${words(bands)}, before ${words(now)}.`],
      },
    });
    return ok(null);
  },
});

function setGroups(tx: Tx, courseId: string, groups: z.output<typeof groupsInput>): void {
  const before = tx.select().from(gradeGroup).where(eq(gradeGroup.courseId, courseId)).all();
  const known = new Set(before.map((one) => one.id));
  for (const one of before)
    if (!groups.some((group) => group.id === one.id)) {
      tx.update(gradeColumn).set({ groupId: null }).where(eq(gradeColumn.groupId, one.id)).run();
      tx.delete(gradeGroup).where(eq(gradeGroup.id, one.id)).run();
    }
  groups.forEach((group, position) => {
    const { id, ...rest } = group;
    if (known.has(id))
      tx.update(gradeGroup)
        .set({ ...rest, position })
        .where(eq(gradeGroup.id, id))
        .run();
    else
      tx.insert(gradeGroup)
        .values({ id: newId(), courseId, ...rest, position })
        .run();
  });
}

/** The row of a column; one is begun for a sitting of which nothing was set so far. */
function columnRow(tx: Tx, courseId: string, columnId: string): Result<typeof gradeColumn.$inferSelect> {
  const found = tx
    .select()
    .from(gradeColumn)
    .where(and(eq(gradeColumn.id, columnId), eq(gradeColumn.courseId, courseId), isNull(gradeColumn.removedAt)))
    .get();
  if (found) return ok(found);
  const row = sittingOf(tx, courseId, columnId);
  if (!row || row.counts === 'no') return notFound('column');
  return ok(
    tx
      .insert(gradeColumn)
      .values({ id: columnId, courseId, sittingId: columnId, title: row.title, position: nextPosition(tx, courseId) })
      .returning()
      .get(),
  );
}

function nextPosition(tx: Tx, courseId: string): number {
  const last = tx
    .select({ position: max(gradeColumn.position) })
    .from(gradeColumn)
    .where(eq(gradeColumn.courseId, courseId))
    .get();
  return (last?.position ?? 0) + 1;
}

const groupIs = (db: Db | Tx, courseId: string, groupId: string): boolean =>
  db
    .select({ id: gradeGroup.id })
    .from(gradeGroup)
    .where(and(eq(gradeGroup.id, groupId), eq(gradeGroup.courseId, courseId)))
    .get() !== undefined;

function setColumn(
  tx: Tx,
  courseId: string,
  columnId: string,
  { title, ...rest }: z.output<typeof columnInput>,
): Result<null> {
  const row = columnRow(tx, courseId, columnId);
  if (!row.ok) return row;
  if (rest.groupId && !groupIs(tx, courseId, rest.groupId)) return notFound('group');
  const manual = row.value.sittingId === null;
  if (manual && rest.worth === null)
    return refused('bad-input', 'Say what the column is worth.', `columns.${columnId}.worth`);
  const next = { ...rest, ...(manual && title !== undefined ? { title } : {}) };
  if (Object.keys(next).length) tx.update(gradeColumn).set(next).where(eq(gradeColumn.id, columnId)).run();
  return ok(null);
}

/** Adds a column that is filled by hand. */
export const addColumn = command({
  admits: toCourse('gradebook.change'),
  takes: [z.object({ title: columnInput.shape.title.unwrap(), worth: points(100_000) })],
  logs: 'gradebook.add-column',
  does({ tx, courseId, record }, input): Result<{ columnId: string }> {
    const columnId = newId();
    const changed = watchSettings(tx, courseId);
    tx.insert(gradeColumn)
      .values({ id: columnId, courseId, ...input, position: nextPosition(tx, courseId) })
      .run();
    record({ subjectId: courseId, detail: { columnId, ...input, ...changed() } });
    return ok({ columnId });
  },
});

/** Takes a manual column out of the gradebook, or puts it back. What was entered stays. */
export const removeColumn = command({
  admits: toCourse('gradebook.change'),
  takes: [id('column'), z.boolean()],
  logs: 'gradebook.remove-column',
  does({ tx, now, courseId, record }, columnId, removed): Result<null> {
    const changed = watchSettings(tx, courseId);
    const done = tx
      .update(gradeColumn)
      .set({ removedAt: removed ? now : null })
      .where(and(eq(gradeColumn.id, columnId), eq(gradeColumn.courseId, courseId), isNull(gradeColumn.sittingId)))
      .run();
    if (done.changes === 0) return notFound('manual column');
    record({
      subjectId: courseId,
      detail: { columnId, ...changed() },
      ...(removed ? {} : { action: 'gradebook.restore-column' }),
    });
    return ok(null);
  },
});

/** Moves a column to a place among all, counted from 0. */
export const moveColumn = command({
  admits: toCourse('gradebook.change'),
  takes: [id('column'), z.int().min(0)],
  logs: 'gradebook.move-column',
  does({ tx, now, courseId, record }, columnId, to): Result<null> {
    const ids = bookData(tx, courseId, now).columns.map((one) => one.id);
    if (!ids.includes(columnId)) return notFound('column');
    const changed = watchSettings(tx, courseId);
    const rest = ids.filter((id) => id !== columnId);
    rest.splice(Math.min(rest.length, to), 0, columnId);
    for (const [i, id] of rest.entries()) {
      const row = columnRow(tx, courseId, id);
      if (!row.ok) return row;
      if (row.value.position !== i + 1)
        tx.update(gradeColumn)
          .set({ position: i + 1 })
          .where(eq(gradeColumn.id, id))
          .run();
    }
    record({ subjectId: courseId, detail: { columnId, to, ...changed() } });
    return ok(null);
  },
});
