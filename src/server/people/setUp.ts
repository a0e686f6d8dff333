import { createHash, randomBytes } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Db } from '@/db/client';
import { installation, user } from '@/db/schema';
import { newId } from '../house/context';
import { writing } from '../house/writing';
import { setPassword } from './auth';
import { beginCourse } from './courses';
import { timeZoneInput } from './personFields';

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** For an installation without people: a token for the one-time set-up address. null once there is anybody. */
export function offerSetUp(db: Db): string | null {
  if (db.select({ id: user.id }).from(user).limit(1).get()) return null;
  const token = randomBytes(24).toString('base64url');
  db.delete(installation).where(eq(installation.name, 'set-up')).run();
  db.insert(installation)
    .values({ name: 'set-up', value: hashOf(token) })
    .run();
  return token;
}

export function setUpIsOpen(db: Db, token: string): boolean {
  const row = db.select().from(installation).where(eq(installation.name, 'set-up')).get();
  return row?.value === hashOf(token);
}

/** Whether the installation still waits for its first person, at whatever address. */
export const setUpIsAhead = (db: Db): boolean =>
  db.select().from(installation).where(eq(installation.name, 'set-up')).get() !== undefined;

const notRight = 'This address is not right: copy the whole of the one that the server printed last.';

const setUpInput = z.object({
  name: z.string().trim().min(1, 'Give your name.').max(120),
  email: z.string().trim().toLowerCase().pipe(z.email('This is not an email address.')),
  password: z.string().min(10, 'Choose a password of at least 10 characters.').max(200),
  course: z.string().trim().min(1, 'Give the course a name.').max(120),
  timeZone: timeZoneInput,
});

/** The first person of an installation: an instructor with a course. */
export async function setUp(
  db: Db,
  token: string,
  input: unknown,
  now: Instant,
): Promise<Result<{ userId: string; courseId: string }>> {
  if (!setUpIsOpen(db, token)) return refused('not-found', setUpIsAhead(db) ? notRight : 'This address has been used.');
  const parsed = parse(setUpInput, input);
  if (!parsed.ok) return parsed;
  const { name, email, password, course, timeZone } = parsed.value;
  const userId = newId();
  const at = new Date(now);
  const created = writing({ actor: { userId, name }, now, db }, (tx, within) => {
    if (tx.delete(installation).where(eq(installation.name, 'set-up')).run().changes === 0)
      return refused('not-found', 'This address has been used.');
    tx.insert(user).values({ id: userId, name, email, keepsSchool: true, createdAt: at, updatedAt: at }).run();
    return ok(beginCourse(within, { name: course, term: '', timeZone }));
  });
  if (!created.ok) return created;
  await setPassword(db, userId, password);
  return ok({ userId, courseId: created.value.courseId });
}
