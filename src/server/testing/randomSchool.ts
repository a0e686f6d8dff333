import { and, eq, isNull } from 'drizzle-orm';
import { quickRandom, type Random } from '@/core/base/random';
import { minute } from '@/core/base/time';
import { extraAnswerRules } from '@/core/exam/design';
import { remarkingPolicies } from '@/core/marking/remarkingPolicy';
import type { QuestionContent } from '@/core/question/content';
import { facts } from '@/core/release/plan';
import { attempt, membership, paperAdjustment, paperSlot } from '@/db/schema';
import { gradeEntry } from '@/db/schema/gradebook';
import { openQuestion, saveQuestion } from '../bank/questions';
import { addColumn, saveNumbers } from '../gradebook/bookSettings';
import { enterCell } from '../gradebook/entries';
import { adjustMark, adjustPaper } from '../marking/adjust';
import { giveMark, slotsToMark } from '../marking/giveMark';
import { applyRemarking, previewRemarking } from '../marking/remarking';
import { removePerson } from '../people/leaving';
import { addPerson } from '../people/roster';
import { publishReady, withdrawPublished } from '../release/publish';
import { sittingResults } from '../release/results';
import { arrange } from '../sitting/arrange';
import { undoChange } from '../undoChange';
import { choiceContent, must, nothingArranged, numberContent, School, writtenContent } from './school';
import { takePaper } from './takePaper';

/** An exam is three questions by a key, in one case with a fourth that is marked by hand. */
const keyed: QuestionContent[] = [
  numberContent('number', '7'),
  numberContent('other', '1.5', 0.1),
  choiceContent('choice'),
];

/** A school in which everything is left to chance: its exams, its rules, what students answer, and what its teacher does. */
export class RandomSchool {
  readonly school: School;
  readonly sittings: string[] = [];
  private readonly random: Random;
  private readonly questions: string[];
  private readonly columns: string[] = [];
  private readonly undos: number[] = [];
  /** In minutes; all sittings are over by then. */
  private clock = 4_000;

  constructor(seed: string) {
    this.random = quickRandom(seed);
    this.school = new School(4 + this.random.below(3));
    const { school } = this;
    this.questions = keyed.map((content) => school.question(content));
    const lines = this.questions.map((id) => school.fixed(id, this.pick([1, 2, 2.5, 4])));
    if (this.often(2)) lines.push(school.fixed(school.question(writtenContent('written')), this.pick([3, 6])));
    const extra = this.pick(extraAnswerRules);
    const choosing = this.questions.map((id) => school.fixed(id, 2));
    this.give(school.exam(lines, this.pick([null, 10, 20])));
    this.give(
      school.exam(choosing, null, (design) => ({
        ...design,
        parts: design.parts.map((part) => ({ ...part, choose: { count: 2, extra } })),
      })),
      extra === 'refused' ? 2 : 3,
    );
    this.give(school.exam(lines.slice(0, 1), null));
    this.settle();
    for (const columnId of this.columns) this.enter(columnId);
    // Somebody who came when all was over.
    const person = { name: 'Lena Late', email: 'lena@school.example', role: 'student', studentNumber: '', section: '' };
    must(addPerson(this.teacher(), school.courseId, person));
  }

  /** The teacher now. */
  teacher = () => this.school.as(this.school.teacher, this.clock * minute);

  /** Does what a teacher might do next. @returns what it was */
  act(): string {
    this.clock += 7;
    const deed = this.pick([
      this.markByHand,
      this.markByHand,
      this.adjustAnswer,
      this.adjustPaper,
      this.markAnew,
      this.markAnew,
      this.publish,
      this.publish,
      this.publish,
      this.withdraw,
      this.enter,
      this.enter,
      this.settle,
      this.excuse,
      this.leave,
      this.takeBack,
    ]);
    deed.call(this);
    return deed.name;
  }

  /** Publishes all that is ready. */
  publish() {
    const { courseId } = this.school;
    for (const sittingId of this.sittings) {
      const { rows } = must(sittingResults(this.teacher(), courseId, sittingId));
      const due = rows.filter(({ result, published, changed }) => result?.ready && (!published || changed));
      if (due.length) must(publishReady(this.teacher(), courseId, sittingId, { expected: due.length }));
    }
  }

  private pick<One>(from: readonly One[]): One {
    return from[this.random.below(from.length)] as One;
  }
  /** Once in so many times. */
  private often(times: number): boolean {
    return this.random.below(times) === 0;
  }

  /** A sitting of an exam with rules of its own, taken by everybody as often as they like, in time or not. */
  private give(examId: string, mostAnswers = 4) {
    const attemptsAllowed = this.pick([1, 2, 3]);
    const sittingId = this.school.sitting(examId, {
      title: `Sitting ${this.sittings.length + 1}`,
      due: this.often(3) ? '' : '2026-03-03T10:00',
      attemptsAllowed,
      attemptCounts: this.pick(['best', 'first', 'last', 'mean']),
      releasePlan: Object.fromEntries(facts.map((fact) => [fact, [{ begins: { kind: 'on-publishing' } }]])),
    });
    this.sittings.push(sittingId);
    for (const student of this.school.students) {
      const late = this.often(3) ? 1_600 : 0;
      for (let i = this.random.below(attemptsAllowed + 1); i > 0; i--)
        takePaper(
          this.school,
          sittingId,
          student,
          (slots) =>
            slots.map((slot, at) => {
              if (at >= mostAnswers || this.often(6)) return null;
              const { choices } = slot.presentation;
              if (choices) return { picked: this.pick(choices).key };
              return { text: this.pick(['7', '1,55', '9', '3/2']) };
            }),
          1 + late + (3 - i) * 100 + this.random.below(50),
        );
    }
  }

  /** Slots of handed-in papers, as a marker sees them. */
  private slots(type?: string) {
    const { db, courseId } = this.school;
    const rows = db
      .select({ id: paperSlot.id })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .where(eq(attempt.state, 'handed-in'))
      .all();
    const seen = [
      ...slotsToMark(
        db,
        courseId,
        rows.map((row) => row.id),
      ).values(),
    ];
    return seen
      .filter((row) => type === undefined || row.type === type)
      .map(({ slot, revision, newest }) => ({ slot, seen: { revision: revision ?? 0, before: newest?.id ?? null } }));
  }

  private markByHand() {
    for (const { slot, seen } of this.slots('written'))
      if (!this.often(4))
        must(
          giveMark(this.teacher(), this.school.courseId, slot.id, {
            points: this.pick([0, 1, 2.5, 3]),
            comment: '',
            ...seen,
          }),
        );
  }

  private adjustAnswer() {
    const one = this.pick(this.slots());
    if (one)
      must(
        adjustMark(this.teacher(), this.school.courseId, one.slot.id, {
          points: this.pick([0, 0.5, 1]),
          reason: 'A word with them',
          ...one.seen,
        }),
      );
  }

  private adjustPaper() {
    const { db, courseId } = this.school;
    const one = this.pick(db.select().from(attempt).where(eq(attempt.state, 'handed-in')).all());
    if (!one) return;
    const last = db.select().from(paperAdjustment).where(eq(paperAdjustment.attemptId, one.id)).all().at(-1);
    const points = this.pick([-3, -0.5, 0, 1, 20]);
    must(adjustPaper(this.teacher(), courseId, one.id, { points, reason: 'The fire alarm', before: last?.id ?? null }));
  }

  /** Mends a key, and marks anew in any of the ways there are. */
  private markAnew() {
    const { courseId, bankId } = this.school;
    const questionId = this.questions[0] as string;
    const { edit, ...open } = must(openQuestion(this.teacher(), courseId, bankId, questionId));
    const content = numberContent('number', this.pick(['7', '9', '1.55']));
    must(saveQuestion(this.teacher(), courseId, bankId, questionId, { ...open, content, edit }));
    const policy = this.pick(remarkingPolicies);
    const { key, changing } = must(previewRemarking(this.teacher(), courseId, questionId, { policy }));
    if (changing === 0) return;
    const reason = 'The book says so.';
    this.undos.push(must(applyRemarking(this.teacher(), courseId, questionId, { policy, key, reason })).auditId);
  }

  private takeBack() {
    const auditId = this.undos.pop();
    if (auditId !== undefined) undoChange(this.teacher(), this.school.courseId, auditId);
  }

  private withdraw() {
    const { courseId } = this.school;
    const sittingId = this.pick(this.sittings);
    const { rows } = must(sittingResults(this.teacher(), courseId, sittingId));
    const told = rows.filter((row) => row.published).map((row) => row.userId);
    if (told.length) must(withdrawPublished(this.teacher(), courseId, sittingId, told.slice(0, 2)));
  }

  private enter(columnId = this.pick(this.columns)) {
    const { db, courseId, students } = this.school;
    for (const { userId } of students) {
      if (this.often(5)) continue;
      const last = db
        .select()
        .from(gradeEntry)
        .where(and(eq(gradeEntry.columnId, columnId), eq(gradeEntry.userId, userId), isNull(gradeEntry.takenBackAt)))
        .all()
        .at(-1);
      const cell = { points: this.pick([0, 3, 5.5, 8, 12, null]), excused: this.often(5), before: last?.id ?? 0 };
      must(enterCell(this.teacher(), courseId, columnId, userId, { ...cell, above: true }));
    }
  }

  /** Sets everything by which totals are computed anew. */
  private settle() {
    const { courseId } = this.school;
    while (this.columns.length < 4)
      this.columns.push(
        must(addColumn(this.teacher(), courseId, { title: `Column ${this.columns.length + 1}`, worth: 10 })).columnId,
      );
    const own = Array.from({ length: this.random.below(3) }, (_, i) => ({
      id: '',
      title: `Group ${i + 1}`,
      weight: this.pick([20, 30, 50]),
      counting: this.pick(['points', 'equal']),
      drop: this.random.below(3),
    }));
    must(
      saveNumbers(this.teacher(), courseId, {
        rules: {
          missing: this.pick(['zero', 'not-yet']),
          decimals: this.random.below(4),
          showsTotal: true,
          bands: this.pick([
            [],
            [
              { label: 'pass', from: this.pick([40, 50, 62.5]), comment: '' },
              { label: 'fail', from: 0, comment: 'Come and see me.' },
            ],
          ]),
        },
        groups: own,
      }),
    );
    const groups = this.school.db.$client
      .prepare('select id from grade_group where course_id = ?')
      .pluck()
      .all(courseId) as string[];
    must(
      saveNumbers(this.teacher(), courseId, {
        columns: Object.fromEntries(
          [...this.columns, ...this.sittings].map((id) => [
            id,
            {
              worth: this.pick([2, 10, 12.5, 40]),
              groupId: groups.length && !this.often(8) ? this.pick(groups) : null,
              extraCredit: this.often(6),
              curve: this.pick([null, null, null, { kind: 'add', points: 2 }, { kind: 'to-maximum' }]),
              ...(this.sittings.includes(id)
                ? { late: this.pick([{ perDay: 0.15, floor: 0.4 }, { perDay: 0.3, floor: 0 }, null]) }
                : {}),
            },
          ]),
        ),
      }),
    );
  }

  private excuse() {
    const student = this.pick(this.school.students);
    arrange(this.teacher(), this.school.courseId, this.pick(this.sittings), student.userId, {
      ...nothingArranged,
      ...(this.often(2) ? { due: '2026-03-02T20:00' } : {}),
      excused: this.often(2),
    });
  }

  private leave() {
    const { db, courseId, students } = this.school;
    const here = db
      .select()
      .from(membership)
      .where(and(eq(membership.courseId, courseId), eq(membership.role, 'student'), isNull(membership.removedAt)))
      .all();
    const one = here.find((member) => member.userId === students.at(-1)?.userId);
    if (one) must(removePerson(this.teacher(), courseId, one.id));
  }
}
