import { and, eq } from 'drizzle-orm';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { hour, minute, second } from '@/core/base/time';
import { attempt, attemptEvent, mark, paperSlot, response } from '@/db/schema';
import { attemptWithRules } from '../records/audience';
import { addTime, handInFor, reopen, restoreAttempt, voidAttempt } from '../room/invigilate';
import { begins, must, School } from '../testing/school';
import { deadlineOf } from './deadlineOf';
import { handInExpired } from './endAttempt';
import { handIn } from './handIn';
import { saveResponses } from './saveResponses';
import { startAttempt } from './startAttempt';
import { openForWriting } from './takeAttempt';

/** What can happen to an attempt, in any order and as often as it likes. */
type Step =
  | { kind: 'start' }
  | { kind: 'open'; browser: number }
  | { kind: 'save'; browser: number; slot: number; ahead: number }
  | { kind: 'hand-in' }
  | { kind: 'sweep' }
  | { kind: 'wait'; seconds: number };

/** Some minutes, or nearly as long as the time limit of an hour: so that much happens shortly before and after a deadline. */
const anyWait = fc.record({
  kind: fc.constant('wait' as const),
  seconds: fc.oneof(fc.integer({ min: 0, max: 25 * 60 }), fc.integer({ min: 58 * 60, max: 60 * 60 })),
});

const anyStep: fc.Arbitrary<Step> = fc.oneof(
  { weight: 1, arbitrary: fc.constant<Step>({ kind: 'start' }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('open' as const), browser: fc.nat(1) }) },
  {
    weight: 8,
    arbitrary: fc.record({
      kind: fc.constant('save' as const),
      browser: fc.nat(1),
      slot: fc.nat(2),
      ahead: fc.integer({ min: -1, max: 1 }),
    }),
  },
  { weight: 1, arbitrary: fc.constant<Step>({ kind: 'hand-in' }) },
  { weight: 1, arbitrary: fc.constant<Step>({ kind: 'sweep' }) },
  { weight: 2, arbitrary: anyWait },
);

it('no story of starts, windows, repeated and overtaken saves, hand-ins and clocks loses an answer, makes a second paper or gives more time', () => {
  const school = new School(1);
  const [student] = school.students;
  if (!student) throw new Error('A student');
  school.questions(6);
  const examId = school.exam([school.draw(3)]);
  fc.assert(
    fc.property(fc.array(anyStep, { minLength: 3, maxLength: 40 }), (steps) => {
      const sittingId = school.sitting(examId);
      let later = minute;
      let attemptId: string | null = null;
      const epochs = [0, 0];
      const sequences = [0, 0];
      /** The newest acknowledged answer of each slot, and when the attempt was first seen to have ended. */
      const acknowledged = new Map<string, string>();
      let ended = false;
      const context = () => school.as(student, later);
      const slots = () =>
        school.db
          .select()
          .from(paperSlot)
          .where(eq(paperSlot.attemptId, attemptId ?? ''))
          .orderBy(paperSlot.position)
          .all();
      // Most of what can go wrong needs a paper that is open.
      const begun: Step[] = [{ kind: 'start' }, { kind: 'open', browser: 0 }];
      for (const step of [...begun, ...steps]) {
        later += second;
        if (step.kind === 'wait') later += step.seconds * second;
        if (step.kind === 'sweep') handInExpired({ db: school.db, now: context().now });
        if (step.kind === 'start') {
          const started = startAttempt(context(), sittingId);
          if (started.ok && attemptId) expect(started.value.attemptId).toBe(attemptId);
          if (started.ok) attemptId = started.value.attemptId;
        }
        if (!attemptId) continue;
        if (step.kind === 'open') {
          const opened = openForWriting(context(), attemptId);
          if (!opened.ok) continue;
          epochs[step.browser] = opened.value.epoch;
          sequences[step.browser] = 0;
          for (const answer of opened.value.answers)
            expect(JSON.stringify(answer.value)).toBe(acknowledged.get(answer.slotId));
        }
        if (step.kind === 'save') {
          const epoch = epochs[step.browser] as number;
          if (epoch === 0) continue;
          const sequence = Math.max(1, (sequences[step.browser] as number) + step.ahead);
          const isNew = sequence > (sequences[step.browser] as number);
          const slotId = slots()[step.slot]?.id ?? '';
          const value = { picked: `${epoch}-${sequence}-${later}` };
          const before = school.db.select().from(response).where(eq(response.slotId, slotId)).get();
          const startedAt = school.db.select().from(attempt).where(eq(attempt.id, attemptId)).get()?.startedAt ?? 0;
          const [saved] = saveResponses(school.db, [
            {
              context: context(),
              save: { attemptId, slotId, epoch, sequence, value, comeBack: false },
            },
          ]);
          const after = school.db.select().from(response).where(eq(response.slotId, slotId)).get();
          if (saved?.ok && after && after.revision !== (before?.revision ?? 0)) {
            acknowledged.set(slotId, JSON.stringify(value));
            expect(context().now).toBeLessThanOrEqual(startedAt + hour + 3 * second);
          } else expect(after).toEqual(before);
          if (isNew) sequences[step.browser] = sequence;
          if (ended) expect(saved?.ok === true && after?.revision !== before?.revision).toBe(false);
        }
        if (step.kind === 'hand-in') must(handIn(context(), attemptId));
        const row = school.db.select().from(attempt).where(eq(attempt.id, attemptId)).get();
        ended = row?.state === 'handed-in';
        if (row?.endedAt) expect(row.endedAt).toBeLessThanOrEqual(row.startedAt + hour);
      }
      if (!attemptId) return;
      // In the end the clock hands in whatever still runs, once.
      handInExpired({ db: school.db, now: begins + 40 * hour });
      expect(school.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all()).toHaveLength(1);
      expect(slots()).toHaveLength(3);
      const events = school.db.select().from(attemptEvent).where(eq(attemptEvent.attemptId, attemptId)).all();
      expect(events.filter((event) => event.kind === 'handed-in')).toHaveLength(1);
      expect(events.filter((event) => event.kind === 'started')).toHaveLength(1);
      for (const { id } of slots()) {
        const stored = school.db.select().from(response).where(eq(response.slotId, id)).get();
        expect(stored ? JSON.stringify(stored.value) : undefined).toBe(acknowledged.get(id));
        expect(school.db.select().from(mark).where(eq(mark.slotId, id)).all()).toHaveLength(1);
      }
    }),
    { seed: 41, numRuns: 120 },
  );
});

/** What an invigilator does besides, and what a student does with more than one attempt. */
type RoomStep =
  | { kind: 'start' | 'open' | 'hand-in' | 'sweep' | 'hand-in-for' | 'restore' }
  | { kind: 'save'; slot: number; again: boolean }
  | { kind: 'add-time' | 'reopen'; minutes: number }
  | { kind: 'void' }
  | { kind: 'wait'; seconds: number };

const anyRoomStep: fc.Arbitrary<RoomStep> = fc.oneof(
  { weight: 3, arbitrary: fc.constantFrom<RoomStep>({ kind: 'start' }, { kind: 'open' }, { kind: 'hand-in' }) },
  {
    weight: 2,
    arbitrary: fc.constantFrom<RoomStep>(
      { kind: 'sweep' },
      { kind: 'hand-in-for' },
      { kind: 'restore' },
      { kind: 'void' },
    ),
  },
  { weight: 6, arbitrary: fc.record({ kind: fc.constant('save' as const), slot: fc.nat(2), again: fc.boolean() }) },
  {
    weight: 2,
    arbitrary: fc.record({ kind: fc.constantFrom('add-time' as const, 'reopen' as const), minutes: fc.nat(15) }),
  },
  { weight: 2, arbitrary: anyWait },
);

it('nor does any story with an invigilator who gives time, hands in, opens again, voids and takes it back', () => {
  const school = new School(1);
  const [student] = school.students;
  if (!student) throw new Error('A student');
  school.questions(6);
  const examId = school.exam([school.draw(3)]);
  fc.assert(
    fc.property(fc.array(anyRoomStep, { minLength: 5, maxLength: 40 }), (steps) => {
      const sittingId = school.sitting(examId, { attemptsAllowed: 2 });
      const teacher = () => school.as(school.teacher, later);
      let later = minute;
      let attemptId = '';
      let epoch = 0;
      let sequence = 0;
      const acknowledged = new Map<string, string>();
      const context = () => school.as(student, later);
      const rows = () => school.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all();
      const slots = (id: string) =>
        school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, id)).orderBy(paperSlot.position).all();
      const papers = new Map<string, string>();
      const begun: RoomStep[] = [{ kind: 'start' }, { kind: 'open' }];
      for (const step of [...begun, ...steps]) {
        later += second;
        const where = [school.courseId, sittingId, attemptId] as const;
        if (step.kind === 'wait') later += step.seconds * second;
        else if (step.kind === 'sweep') handInExpired({ db: school.db, now: context().now });
        else if (step.kind === 'start') {
          const started = startAttempt(context(), sittingId);
          if (started.ok && started.value.attemptId !== attemptId) {
            attemptId = started.value.attemptId;
            epoch = 0;
          }
        } else if (!attemptId) continue;
        else if (step.kind === 'open') {
          const opened = openForWriting(context(), attemptId);
          if (opened.ok) {
            epoch = opened.value.epoch;
            sequence = 0;
          }
        } else if (step.kind === 'save') {
          if (epoch === 0) continue;
          if (!step.again) sequence += 1;
          const slotId = slots(attemptId)[step.slot]?.id ?? '';
          const before = school.db.select().from(response).where(eq(response.slotId, slotId)).get();
          const value = { picked: `${epoch}-${sequence}-${step.again ? 'again' : later}` };
          const row = attemptWithRules(school.db, attemptId);
          const deadline = row && deadlineOf(row);
          const [saved] = saveResponses(school.db, [
            {
              context: context(),
              save: { attemptId, slotId, epoch, sequence: Math.max(1, sequence), value, comeBack: false },
            },
          ]);
          const after = school.db.select().from(response).where(eq(response.slotId, slotId)).get();
          if (after && after.revision !== (before?.revision ?? 0)) {
            expect(saved?.ok).toBe(true);
            expect(row?.attempt.state).toBe('running');
            if (deadline) expect(context().now).toBeLessThanOrEqual(deadline + 3 * second);
            acknowledged.set(slotId, JSON.stringify(value));
          } else expect(after).toEqual(before);
        } else if (step.kind === 'hand-in') handIn(context(), attemptId);
        else if (step.kind === 'hand-in-for') handInFor(teacher(), ...where);
        else if (step.kind === 'add-time') addTime(teacher(), school.courseId, sittingId, null, step.minutes);
        else if (step.kind === 'reopen') reopen(teacher(), ...where, { minutes: step.minutes, reason: 'a reason' });
        else if (step.kind === 'void') voidAttempt(teacher(), ...where, 'a reason');
        else restoreAttempt(teacher(), ...where);
        // Never two at once, never another paper for an attempt, never stamped after its deadline.
        expect(rows().filter((row) => row.state === 'running').length).toBeLessThanOrEqual(1);
        for (const row of rows()) {
          const paper = JSON.stringify(slots(row.id).map((slot) => [slot.id, slot.versionId, slot.presentation]));
          expect(paper).toBe(papers.get(row.id) ?? paper);
          papers.set(row.id, paper);
          const ended = attemptWithRules(school.db, row.id);
          if (row.state === 'handed-in' && ended) expect(row.endedAt).toBeLessThanOrEqual(deadlineOf(ended) ?? 0);
        }
      }
      for (const [slotId, value] of acknowledged)
        expect(JSON.stringify(school.db.select().from(response).where(eq(response.slotId, slotId)).get()?.value)).toBe(
          value,
        );
      for (const row of rows()) {
        const events = school.db.select().from(attemptEvent).where(eq(attemptEvent.attemptId, row.id)).all();
        const of = (kind: string) => events.filter((event) => event.kind === kind).length;
        expect(of('started')).toBe(1);
        expect(of('handed-in')).toBeLessThanOrEqual(of('reopened') + 1);
        expect(of('voided') - of('restored')).toBe(row.state === 'voided' ? 1 : 0);
        if (row.state === 'handed-in')
          for (const { id } of slots(row.id))
            expect(
              school.db
                .select()
                .from(mark)
                .where(and(eq(mark.slotId, id), eq(mark.outdated, false)))
                .all(),
            ).toHaveLength(1);
      }
    }),
    { seed: 43, numRuns: 80 },
  );
});
