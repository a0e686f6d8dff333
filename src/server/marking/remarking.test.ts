import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { usualMatching } from '@/core/question/text/acceptedText';
import { audit, mark, question, questionVersion, remarking } from '@/db/schema';
import { checkQuestion } from '../attempt/checkQuestion';
import { handIn } from '../attempt/handIn';
import { saveResponses } from '../attempt/saveResponses';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import { observed } from '../bank/observed';
import { openQuestion, saveQuestion } from '../bank/questions';
import type { Actor } from '../house/context';
import { publishReady } from '../release/publish';
import { sittingResults } from '../release/results';
import { choiceContent, must, numberContent, refusal, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { undoChange } from '../undoChange';
import { adjustMark } from './adjust';
import { acceptAnswer, applyRemarking, previewAccept, previewRemarking } from './remarking';
import { markedPaper } from './responses';

let school: School;
const teacher = (later = 60) => school.as(school.teacher, later * minute);
const student = (i: number) => school.students[i] as Actor;

beforeEach(() => {
  school = new School(4);
});

describe('a re-mark', () => {
  const results = (sittingId: string) =>
    must(sittingResults(teacher(), school.courseId, sittingId)).rows.flatMap((row) =>
      row.result ? [[row.name, row.result.earned, row.result.possible] as const] : [],
    );
  const mend = (questionId: string, change: (content: QuestionContent) => QuestionContent) => {
    const open = must(openQuestion(teacher(), school.courseId, school.bankId, questionId));
    must(
      saveQuestion(teacher(), school.courseId, school.bankId, questionId, {
        ...open,
        content: change(open.content),
        edit: open.edit,
      }),
    );
  };
  const look = (questionId: string, policy: string, more: object = {}) =>
    must(previewRemarking(teacher(), school.courseId, questionId, { policy, ...more }));
  const apply = (questionId: string, policy: string, key: string) =>
    applyRemarking(teacher(), school.courseId, questionId, { policy, key, reason: 'The key was wrong.' });

  let number: string;
  let sittingId: string;
  beforeEach(() => {
    number = school.question(numberContent('number', '7'));
    const other = school.question(numberContent('other', '1'));
    sittingId = school.sitting(school.exam([school.fixed(number, 4), school.fixed(other, 1)]));
    for (const [i, text] of ['7', '8', '9', null].entries())
      takePaper(school, sittingId, student(i), [text && { text }, { text: '1' }]);
    mend(
      number,
      (content) =>
        ({
          ...content,
          accepted: [{ value: '8', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
        }) as QuestionContent,
    );
  });

  it.each([
    [
      'new-key',
      [
        [1, 5],
        [5, 5],
        [1, 5],
        [1, 5],
      ],
    ],
    [
      'either-key',
      [
        [5, 5],
        [5, 5],
        [1, 5],
        [1, 5],
      ],
    ],
    [
      'everyone',
      [
        [5, 5],
        [5, 5],
        [5, 5],
        [5, 5],
      ],
    ],
    [
      'left-out',
      [
        [1, 1],
        [1, 1],
        [1, 1],
        [1, 1],
      ],
    ],
  ] as const)('%s: shows exactly what it would do, does that, and can be taken back', (policy, after) => {
    const before = results(sittingId);
    const preview = look(number, policy);
    const changed = before.filter(([, earned, possible], i) => earned !== after[i]?.[0] || possible !== after[i]?.[1]);
    expect(preview.results.map((one) => one.name).sort()).toEqual(changed.map(([name]) => name).sort());
    for (const one of preview.results) {
      const i = before.findIndex(([name]) => name === one.name);
      expect(one.after).toEqual({ earned: after[i]?.[0], possible: after[i]?.[1] });
    }
    expect(results(sittingId)).toEqual(before);
    const share = (list: readonly (readonly [number, number])[]) =>
      list.reduce((sum, [earned, possible]) => sum + earned / possible, 0) / list.length;
    expect(preview.sittings[0]?.meanBefore).toBeCloseTo(share(before.map(([, e, p]) => [e, p])), 12);
    expect(preview.sittings[0]?.meanAfter).toBeCloseTo(share(after), 12);
    expect(preview.sittings[0]?.tenthsAfter.reduce((a, b) => a + b)).toBe(4);
    const { auditId } = must(apply(number, policy, preview.key));
    expect(results(sittingId).map(([, earned, possible]) => [earned, possible])).toEqual(after);
    expect(look(number, policy).changing).toBe(0);
    must(undoChange(teacher(), school.courseId, auditId));
    expect(results(sittingId)).toEqual(before);
    expect(school.db.select().from(remarking).get()?.takenBackAt).not.toBeNull();
  });

  it('leaves what a person gave, and says how many', () => {
    const slotId = school.db.select().from(mark).where(eq(mark.points, 4)).get()?.slotId ?? '';
    const newest = school.db.select().from(mark).where(eq(mark.slotId, slotId)).get();
    must(
      adjustMark(teacher(), school.courseId, slotId, {
        points: 2,
        reason: 'Half',
        revision: newest?.responseRevision,
        before: newest?.id,
      }),
    );
    const preview = look(number, 'everyone');
    expect([preview.answers, preview.byPerson, preview.changing]).toEqual([4, 1, 3]);
    must(apply(number, 'everyone', preview.key));
    expect(
      results(sittingId)
        .map(([, earned]) => earned)
        .sort(),
    ).toEqual([3, 5, 5, 5]);
  });

  it('is refused once anything has changed since it was looked at, without a reason, or where nothing would change', () => {
    const { key } = look(number, 'new-key');
    expect(refusal(applyRemarking(teacher(), school.courseId, number, { policy: 'new-key', key, reason: '' }))).toBe(
      'bad-input',
    );
    expect(refusal(apply(number, 'everyone', key))).toBe('conflict');
    must(apply(number, 'new-key', key));
    expect(refusal(apply(number, 'new-key', key))).toBe('conflict');
    expect(refusal(apply(number, 'new-key', look(number, 'new-key').key))).toBe('bad-input');
  });

  it('flags published results, and never changes them by itself', () => {
    must(publishReady(teacher(), school.courseId, sittingId, { expected: 4 }));
    const preview = look(number, 'new-key');
    expect(preview.results.every((one) => one.published)).toBe(true);
    must(apply(number, 'new-key', preview.key));
    const rows = must(sittingResults(teacher(), school.courseId, sittingId)).rows;
    expect(rows.filter((row) => row.changed)).toHaveLength(2);
    expect(rows.map((row) => row.published?.earned).sort()).toEqual([1, 1, 1, 5]);
  });

  it('freezes the version that judged, and what everyone earned says nothing about how hard a question is', () => {
    expect(observed(school.db, [number]).get(number)?.success).toEqual({ mean: 0.25, n: 4 });
    must(apply(number, 'everyone', look(number, 'everyone').key));
    const versions = school.db.select().from(questionVersion).where(eq(questionVersion.questionId, number)).all();
    expect(versions.every((version) => version.frozenAt !== null)).toBe(true);
    expect(observed(school.db, [number]).get(number)?.success).toBeNull();
    expect(school.db.select().from(audit).where(eq(audit.action, 'marking.remark')).all()).toHaveLength(1);
  });

  it('is told from a typed reason that says the same: what a person writes changes no figure', () => {
    const seen = () => observed(school.db, [number]).get(number)?.success;
    const [n] = [seen()?.n];
    const paper = must(markedPaper(teacher(), school.courseId, sittingId, student(1).userId)).questions[0];
    for (const [i, reason] of ['not chosen', 'everyone earns its points'].entries()) {
      const { slotId, revision } = paper ?? { slotId: '', revision: 0 };
      const before = school.db.select().from(mark).where(eq(mark.slotId, slotId)).all().at(-1)?.id ?? null;
      must(adjustMark(teacher(), school.courseId, slotId, { points: i, reason, revision, before }));
      expect(seen()?.n).toBe(n);
    }
    // The reason that was typed for a re-mark stays with its marks.
    must(apply(number, 'everyone', look(number, 'everyone').key));
    const rows = school.db.select().from(mark).where(eq(mark.unobserved, 'everyone-earns')).all();
    expect(rows.length).toBeGreaterThan(0);
    expect(new Set(rows.map((row) => row.reason))).toEqual(new Set(['The key was wrong.']));
  });

  it('goes through every try again, and keeps what they cost', () => {
    const tried = school.question(numberContent('tried', '7'));
    const learning = { learning: 'as-they-go', tries: { most: 3, cost: 0.25 } };
    const trying = school.sitting(school.exam([school.fixed(tried, 4)]), { further: learning });
    const who = (later: number) => school.as(student(0), later * minute);
    const { attemptId } = must(startAttempt(who(1), trying));
    const { epoch, slots } = must(openForWriting(who(1), attemptId));
    const slotId = slots[0]?.slotId ?? '';
    for (const [i, text] of ['8', '7'].entries()) {
      const save = { attemptId, slotId, epoch, sequence: i + 1, value: { text }, comeBack: false };
      for (const saved of saveResponses(school.db, [{ context: who(2 + i), save }])) must(saved);
      must(checkQuestion(who(2 + i), attemptId, slotId));
    }
    must(handIn(who(9), attemptId));
    expect(results(trying)).toEqual([[student(0).name, 3, 4]]);
    mend(
      tried,
      (content) =>
        ({
          ...content,
          accepted: [{ value: '8', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
        }) as QuestionContent,
    );
    // By the new key it was right at the first try.
    must(apply(tried, 'new-key', look(tried, 'new-key').key));
    expect(results(trying)).toEqual([[student(0).name, 4, 4]]);
  });

  it('honours choose-parts', () => {
    const picked = school.question(choiceContent('pick'));
    const second = school.question(choiceContent('second'));
    const chooseSitting = school.sitting(
      school.exam([school.fixed(picked, 3), school.fixed(second, 3)], null, (design) => ({
        ...design,
        parts: design.parts.map((part) => ({ ...part, choose: { count: 1, extra: 'best' as const } })),
      })),
    );
    takePaper(school, chooseSitting, student(0), [null, null]);
    expect(look(picked, 'everyone').changing).toBe(0);
    const preview = look(picked, 'left-out');
    expect(preview.changing).toBe(1);
    must(apply(picked, 'left-out', preview.key));
    // Of two questions with one to be chosen one is left: min(1, 1) · 3 points are possible.
    expect(results(chooseSitting)).toEqual([[student(0).name, 0, 3]]);
  });
});

describe('accepting an answer from now on', () => {
  it('adds it to the key and marks anew in one act, after a look at what changes', () => {
    const word = school.question({
      type: 'short-text',
      stem: richFromText('What is it called?'),
      feedback: {},
      accepted: [{ text: 'bowline', credit: 1 }],
      matching: usualMatching,
    });
    const sittingId = school.sitting(school.exam([school.fixed(word, 2)]));
    for (const [i, text] of ['bowline', 'boling knot', 'Boling Knot', 'reef'].entries())
      takePaper(school, sittingId, student(i), [{ text }]);
    const preview = must(previewAccept(teacher(), school.courseId, word, { text: 'boling knot' }));
    expect(preview).toMatchObject({ changing: 2, answers: 4 });
    const row = () => school.db.select().from(question).where(eq(question.id, word)).get();
    const before = row();
    expect(refusal(acceptAnswer(teacher(), school.courseId, word, { text: 'boling knot', key: 'other' }))).toBe(
      'conflict',
    );
    expect(row()).toEqual(before);
    must(acceptAnswer(teacher(), school.courseId, word, { text: 'boling knot', key: preview.key }));
    expect(row()?.edit).toBe((before?.edit ?? 0) + 1);
    const version = school.db
      .select()
      .from(questionVersion)
      .where(eq(questionVersion.id, row()?.currentVersionId ?? ''))
      .get();
    expect(JSON.stringify(version?.content)).toContain('boling knot');
    expect(version?.number).toBe(2);
    const earned = must(sittingResults(teacher(), school.courseId, sittingId)).rows.map((one) => one.result?.earned);
    expect(earned.sort()).toEqual([0, 2, 2, 2]);
    expect(refusal(previewAccept(teacher(), school.courseId, word, { text: 'boling knot' }))).toBe('not-found');
  });
});
