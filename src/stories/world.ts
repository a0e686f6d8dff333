import { localFromInstant } from '@/core/base/localTime';
import { day, hour, minute } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import type { Actor } from '@/server/house/context';
import { arrange } from '@/server/sitting/arrange';
import { begins, must, School } from '@/server/testing/school';
import { type Feature, pairs } from './story';

/** The time limit of every story that has one, in minutes. */
export const limitMinutes = 10;
/** The grace of a story that has one, in minutes. */
export const graceMinutes = 2;
/** In minutes, after the school's clock began, where a story has a closing of its own. */
export const closingMinutes = 14;
/** Extra time in percent, where a story has some. */
export const extraPercent = 50;

/** When the attempt of a story starts: so that a closing cuts a little off. */
export const startOf = (rules: readonly Feature[]): number => (rules.includes('closing') ? 6 : 1) * minute;

/** When the attempt of a story ends, reckoned apart from the product; null where nothing ends it. */
export function deadlineOf(rules: readonly Feature[], added: number): number | null {
  const has = (one: Feature) => rules.includes(one);
  const start = startOf(rules);
  const limit = has('no-limit') ? null : limitMinutes * minute * (has('extra-time') ? 1 + extraPercent / 100 : 1);
  const extra = limit === null ? 0 : limit - limitMinutes * minute;
  const closes = (has('closing') ? closingMinutes * minute : 2 * day) + extra;
  if (limit !== null && has('full-time')) return start + limit + added;
  return Math.min(limit === null ? Number.POSITIVE_INFINITY : start + limit, closes) + added;
}

/** The same for the same rules, in whatever order. */
const keyOf = (rules: readonly Feature[]): string => [...rules].sort().join();

/** A school with a sitting for every meeting of rules; each story takes a student and a sitting that no other has. */
export class StoryWorld {
  readonly school: School;
  private sittings = new Map<string, string>();
  private used = new Map<string, number>();

  constructor(students: number) {
    this.school = new School(students);
    const questions = this.school.questions(5);
    for (const rules of pairs) {
      const key = keyOf(rules);
      if (!this.sittings.has(key)) this.sittings.set(key, this.give(rules, questions));
    }
  }

  private give(rules: readonly Feature[], questions: readonly string[]): string {
    const has = (one: Feature) => rules.includes(one);
    const { school } = this;
    const line = (i: number, more: object = {}) => ({ ...school.fixed(questions[i] ?? ''), ...more });
    const change = (design: ExamDesign): ExamDesign => {
      const [part] = design.parts;
      if (!part) throw new Error('An exam begins with a part');
      const own = has('own-time') ? { minutes: 3 } : {};
      const owed = has('required') ? { required: true } : {};
      return {
        ...design,
        parts: [
          { ...part, lines: [line(0, owed), line(1, own)] },
          {
            ...part,
            id: `${part.id}-2`,
            title: 'Choose',
            lines: [line(2), line(3), line(4)],
            ...(has('choose') ? { choose: { count: 2, extra: 'refused' as const } } : {}),
          },
        ],
      };
    };
    const examId = school.exam([line(0)], null, change);
    const local = (later: number) => localFromInstant(begins + later, 'Europe/Oslo');
    const sittingId = school.sitting(examId, {
      opens: local(-hour),
      closes: local(has('closing') ? closingMinutes * minute : 2 * day),
      timeLimitMinutes: has('no-limit') ? null : limitMinutes,
      fullTimeOnceStarted: has('full-time'),
      further: {
        ...(has('grace') ? { expiry: { kind: 'grace', minutes: graceMinutes } } : {}),
        onwardOnly: has('onward'),
        ...(has('time-for-each') ? { minutesPerQuestion: 4 } : {}),
        ...(has('tries') ? { tries: { most: 2, cost: 0 } } : {}),
      },
    });
    if (has('extra-time'))
      for (const { userId } of school.students)
        must(
          arrange(school.as(school.teacher, -hour), school.courseId, sittingId, userId, {
            extraPercent,
            extraMinutes: 0,
            extraAttempts: 0,
            excused: false,
          }),
        );
    return sittingId;
  }

  /** A student and a sitting for a story under these rules; null once every student has had it. */
  next(rules: readonly Feature[]): { sittingId: string; student: Actor } | null {
    const key = keyOf(rules);
    const n = this.used.get(key) ?? 0;
    this.used.set(key, n + 1);
    const student = this.school.students[n];
    return student ? { sittingId: this.sittings.get(key) ?? '', student } : null;
  }
}
