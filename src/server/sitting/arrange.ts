import { z } from 'zod';
import { id } from '@/core/base/id';
import { readLocal } from '@/core/base/localTime';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { closesFor, lastStartFor, opensFor } from '@/core/sitting/clock';
import { mergeArrangements, noArrangement } from '@/core/sitting/rules';
import { arrangement } from '@/db/schema';
import { tell } from '../house/bus';
import { command } from '../house/useCase';
import { audienceOf, rulesOf } from '../records/audience';
import { entryCode, networks } from './rulesInput';
import { tellArranged } from './tellStudents';
import { toSitting } from './toSitting';

const wholeNumber = z.number({ message: 'Give a whole number.' }).int('Give a whole number.');
const localMoment = z.string().max(16).default('');

const arrangementInput = z.object({
  extraPercent: wholeNumber.min(0, 'Not below 0.').max(300, 'At most 300 %.'),
  extraMinutes: wholeNumber.min(0, 'Not below 0.').max(24 * 60, 'At most a day.'),
  extraAttempts: wholeNumber.min(0, 'Not below 0.').max(20, 'At most 20.'),
  excused: z.boolean(),
  /** Own dates, local to the course's zone; empty where the sitting's hold. */
  opens: localMoment,
  lastStart: localMoment,
  due: localMoment,
  closes: localMoment,
  /** Empty where the sitting's hold. */
  entryCode: entryCode.default(''),
  networks: networks.default([]),
});

/** Sets what differs for one student in one sitting. Open pages hear of it, and the student is told. */
export const arrange = command({
  admits: toSitting('sitting.change'),
  takes: [id('user'), arrangementInput],
  logs: 'sitting.arrange',
  does(
    { tx, sittingId, sitting: row, record, afterwards, context, timeZone, courseName, courseId },
    userId,
    { opens, lastStart, due, closes, entryCode: code, networks: ranges, ...rest },
  ): Result<null> {
    const moments: Record<'opens' | 'lastStart' | 'due' | 'closes', Instant | null> = {
      opens: null,
      lastStart: null,
      due: null,
      closes: null,
    };
    for (const [name, text] of Object.entries({ opens, lastStart, due, closes }) as [keyof typeof moments, string][]) {
      if (text === '') continue;
      const read = readLocal(text, timeZone);
      if (!read.ok) return refused('bad-input', read.why, name);
      moments[name] = read.at;
    }
    const next = { ...rest, ...moments, entryCode: code || null, networks: ranges.length ? ranges : null };
    afterwards(() => tell({ sittingId, what: 'rules', userId }));
    const student = audienceOf(tx, row).find((one) => one.userId === userId);
    if (!student) return notFound('student');
    const rules = rulesOf(row);
    const merged = mergeArrangements({ ...noArrangement, ...next }, noArrangement);
    const ownOpens = opensFor(rules, merged);
    const ownCloses = closesFor(rules, merged);
    if (ownOpens !== null && ownCloses !== null && ownOpens >= ownCloses)
      return refused('bad-input', 'It would close for this student before it opens.', 'closes');
    const ownLast = lastStartFor(rules, merged);
    if (moments.lastStart !== null && ownCloses !== null && ownLast !== null && ownLast > ownCloses)
      return refused('bad-input', 'The last start lies after the closing.', 'lastStart');
    if (ownOpens !== null && ownLast !== null && ownOpens >= ownLast)
      return refused('bad-input', 'This student could never start: it opens for them after their last start.', 'opens');
    tx.insert(arrangement)
      .values({ sittingId, userId, ...next })
      .onConflictDoUpdate({ target: [arrangement.sittingId, arrangement.userId], set: next })
      .run();
    const after = audienceOf(tx, row).find((one) => one.userId === userId);
    if (row.state === 'scheduled' && after)
      tellArranged(tx, context, { row, student: after, courseId, timeZone, courseName });
    record({ subjectId: sittingId, detail: { userId, ...next, entryCode: next.entryCode ? 'set' : null } });
    return ok(null);
  },
});
