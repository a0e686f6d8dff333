import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { richFromText, richText } from '@/core/base/rich';
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
import { sampleSheet } from '../gradebook/feedbackSheets';
import type { Actor } from '../house/context';
import { publishReady } from '../release/publish';
import { sittingResults } from '../release/results';
import { myReview } from '../release/review';
import { choiceContent, must, numberContent, refusal, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { undoChange } from '../undoChange';
import { adjustMark, adjustPaper } from './adjust';
import {
  acceptAnswer,
  applyRemarking,
  oldKeyPapers,
  previewAccept,
  previewRemarking,
  remarkingOutcomes,
} from './remarking';
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

  it('is offered as soon as a key is mended: the papers that hold the old one, and all four ways side by side', () => {
    const old = () => must(oldKeyPapers(teacher(), school.courseId, number));
    // Right by the old key and by the new one; "9" and the empty answer are wrong by both.
    expect(old()).toEqual({ papers: 4, changing: 2 });
    const { outcomes, onPapers, version } = must(remarkingOutcomes(teacher(), school.courseId, number));
    expect([onPapers, version]).toEqual([[1], 2]);
    expect(outcomes.map((one) => [one.policy, one.changing])).toEqual([
      ['new-key', 2],
      ['either-key', 1],
      ['everyone', 3],
      ['left-out', 4],
    ]);
    // Each is what the act would do.
    for (const { policy, key } of outcomes) expect(key).toBe(look(number, policy).key);
    must(apply(number, 'new-key', look(number, 'new-key').key));
    expect(old()).toEqual({ papers: 4, changing: 0 });
    expect(refusal(oldKeyPapers(school.as(student(0)), school.courseId, number))).toBe('not-allowed');
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

describe('what a student reads after a key was wrong', () => {
  const facts = ['score', 'questions', 'own-answers', 'right-or-wrong', 'right-answers', 'feedback'] as const;
  const releasePlan = Object.fromEntries(facts.map((fact) => [fact, [{ begins: { kind: 'on-publishing' as const } }]]));
  const exact = { kind: 'absolute' as const, amount: 0 };
  const publishAll = (sittingId: string, later: number, expected: number) =>
    must(publishReady(teacher(later), school.courseId, sittingId, { expected }));
  let question: string;
  let sittingId: string;
  const seen = (later: number, who = 1) => {
    const shown = must(myReview(school.as(student(who), later * minute), sittingId));
    const one = shown.questions[0];
    const key = one?.keyed?.content;
    return {
      score: shown.score?.earned,
      points: one?.points,
      outcome: one?.outcome,
      key: key?.type === 'numeric' ? key.accepted.map((accepted) => accepted.value) : null,
      stem: key && richText(key.stem),
      solution: one?.solution && richText(one.solution),
      why: one?.why,
      adjusted: shown.adjusted,
    };
  };
  const printed = (later: number) => {
    const layout = { fields: ['score', 'questions'], letter: '', signature: '', rightAnswers: true };
    const sheet = must(sampleSheet(teacher(later), school.courseId, sittingId, student(1).userId, layout));
    return sheet.blocks.flatMap((block) =>
      block.kind === 'question' ? [block.verdict, block.right, block.why] : block.kind === 'text' ? [block.text] : [],
    );
  };
  const mend = () => {
    const open = must(openQuestion(teacher(), school.courseId, school.bankId, question));
    const content = {
      ...open.content,
      stem: richFromText('How many, in words of later?'),
      accepted: [{ value: '8', tolerance: exact, credit: 1 }],
      feedback: { solution: richFromText('Eight, since …') },
    };
    must(saveQuestion(teacher(), school.courseId, school.bankId, question, { ...open, content, edit: open.edit }));
  };
  const markAnew = (policy: string, later: number) => {
    const { key } = must(previewRemarking(teacher(later), school.courseId, question, { policy }));
    return must(applyRemarking(teacher(later), school.courseId, question, { policy, key, reason: 'A misprint' }));
  };
  const slot = (later: number) =>
    must(markedPaper(teacher(later), school.courseId, sittingId, student(1).userId)).questions[0];

  beforeEach(() => {
    question = school.question(numberContent('How many?', '7'));
    sittingId = school.sitting(school.exam([school.fixed(question, 4)]), { releasePlan });
    for (const [i, text] of ['7', '8', '9', '8'].entries()) takePaper(school, sittingId, student(i), [{ text }]);
    publishAll(sittingId, 60, 4);
  });

  it('rests on the key that judged: nothing of a mended one before it is published anew, all of it afterwards', () => {
    const before = { score: 0, points: 0, outcome: 'wrong', key: ['7'], why: null, solution: null, adjusted: [] };
    expect(seen(61)).toMatchObject(before);
    mend();
    expect(seen(62)).toMatchObject(before);
    const { auditId } = markAnew('new-key', 70);
    expect(seen(71)).toMatchObject(before);
    expect(printed(71)).toEqual(['wrong', '7', null]);
    publishAll(sittingId, 80, 3);
    const why = 'The key of this question was mended, and your answer was marked anew by it. Why: A misprint.';
    const after = { score: 4, points: 4, outcome: 'right', key: ['8'], why, solution: 'Eight, since …' };
    // The words are those that stood on the paper.
    expect(seen(81)).toMatchObject({ ...after, stem: 'How many?' });
    expect(printed(81)).toEqual(['right', null, why]);
    // Whoever gains nothing by it reads the mended key too; whoever had the old one right lost by it.
    expect(seen(81, 2)).toMatchObject({
      score: 0,
      key: ['8'],
      why: 'The key of this question was mended; your points stay as they were.',
    });
    expect(seen(81, 0)).toMatchObject({ score: 0, outcome: 'wrong', key: ['8'], why });
    // Taken back and published once more, it is all as before.
    must(undoChange(teacher(90), school.courseId, auditId));
    expect(seen(91)).toMatchObject(after);
    publishAll(sittingId, 92, 3);
    expect(seen(93)).toMatchObject(before);
  });

  it('leaves the papers of another sitting with the key they had, where only one was marked anew', () => {
    const other = school.sitting(school.exam([school.fixed(question, 4)]), { releasePlan });
    for (const i of [0, 1, 2, 3]) takePaper(school, other, student(i), [{ text: '9' }]);
    publishAll(other, 60, 4);
    mend();
    const asked = { policy: 'new-key', sittingIds: [sittingId] };
    const { key } = must(previewRemarking(teacher(70), school.courseId, question, asked));
    must(applyRemarking(teacher(70), school.courseId, question, { ...asked, key, reason: 'A misprint' }));
    expect(seen(81, 2)).toMatchObject({ key: ['8'] });
    sittingId = other;
    expect(seen(81)).toMatchObject({ key: ['7'], why: null });
  });

  it('says that everyone has full points, or that it does not count, beside the key', () => {
    mend();
    markAnew('everyone', 70);
    publishAll(sittingId, 80, 3);
    expect(seen(81)).toMatchObject({
      score: 4,
      key: ['8'],
      why: 'Everyone has full points for this question. Why: A misprint.',
    });
  });

  it('keeps the mended key beside points that a person set afterwards, and tells both reasons', () => {
    mend();
    markAnew('new-key', 70);
    const one = slot(71);
    must(
      adjustMark(teacher(72), school.courseId, one?.slotId ?? '', {
        points: 3,
        reason: 'half a cable off',
        revision: one?.revision,
        before: one?.markId,
      }),
    );
    const attemptId = must(markedPaper(teacher(73), school.courseId, sittingId, student(1).userId)).attemptId;
    must(adjustPaper(teacher(73), school.courseId, attemptId, { points: -0.5, reason: 'Late', before: null }));
    publishAll(sittingId, 80, 3);
    expect(seen(81)).toMatchObject({
      score: 2.5,
      points: 3,
      key: ['8'],
      why: 'Your points were set by hand: half a cable off.',
      adjusted: ['0.5 points were taken from the whole paper: Late.'],
    });
    expect(printed(81)).toContain('0.5 points were taken from the whole paper: Late.');
    // What is changed later is told once it is published.
    const last =
      must(markedPaper(teacher(82), school.courseId, sittingId, student(1).userId)).adjustments[0]?.id ?? null;
    must(adjustPaper(teacher(83), school.courseId, attemptId, { points: 0, reason: 'Not late', before: last }));
    expect(seen(84)).toMatchObject({ score: 2.5, adjusted: ['0.5 points were taken from the whole paper: Late.'] });
    publishAll(sittingId, 85, 1);
    expect(seen(86)).toMatchObject({ score: 3, adjusted: [] });
  });
});
