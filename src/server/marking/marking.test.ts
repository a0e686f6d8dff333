import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { usualMatching } from '@/core/question/text/acceptedText';
import { audit, mark, question, questionVersion, remark } from '@/db/schema';
import { observed } from '../bank/observed';
import { openQuestion, saveQuestion } from '../bank/questions';
import type { Actor } from '../house/context';
import { publishReady } from '../release/publish';
import { sittingResults } from '../release/results';
import { choiceContent, must, numberContent, refusal, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { adjustMark, adjustPaper, historyOf } from './adjust';
import { answersToMark, moreAnswers, papersToMark } from './answersToMark';
import { giveMark, takeBackMarks } from './giveMark';
import { answersTogether, markGroup } from './groups';
import { markingQueue } from './markingQueue';
import { acceptAnswer, applyRemark, previewAccept, previewRemark, takeBackRemark } from './remarking';
import { dropComment, keepComment } from './savedComments';

let school: School;
const teacher = (later = 60) => school.as(school.teacher, later * minute);
const student = (i: number) => school.students[i] as Actor;

beforeEach(() => {
  school = new School(4);
});

const rubric = {
  criteria: [
    {
      id: 'c1',
      name: 'Reasons',
      weight: 1,
      levels: [
        { id: 'l0', name: 'none', share: 0 },
        { id: 'l1', name: 'sound', share: 1 },
      ],
    },
  ],
};

describe('a mark', () => {
  let essay: string;
  let sittingId: string;
  let slotId: string;
  let attemptId: string;
  beforeEach(() => {
    essay = school.question({ ...writtenContent('Why?'), rubric } as QuestionContent);
    sittingId = school.sitting(school.exam([school.fixed(essay, 6)]), { markerIds: [school.marker.userId] });
    const taken = takePaper(school, sittingId, student(0), [{ text: 'Because the tide turns.' }]);
    slotId = taken.slotIds[0] as string;
    attemptId = taken.attemptId;
  });
  const give = (more: object = {}) =>
    giveMark(teacher(), school.courseId, slotId, { points: 3, comment: '', revision: 1, before: null, ...more });
  const body = () => must(answersToMark(teacher(), school.courseId, sittingId, essay)).bodies[0];

  it('holds levels of the rubric and notes on passages, and refuses levels the rubric does not have', () => {
    const notes = [{ from: 8, to: 16, text: 'Which?' }];
    must(give({ rubric: { c1: 'l1' }, notes, points: 6 }));
    expect(body()).toMatchObject({ rubric: { c1: 'l1' }, notes, points: 6 });
    for (const wrong of [{ c1: 'l9' }, { c9: 'l1' }])
      expect(refusal(give({ rubric: wrong, before: body()?.markId }))).toBe('conflict');
    expect(refusal(give({ notes: [{ from: 3, to: 3, text: 'x' }], before: body()?.markId }))).toBe('bad-input');
  });

  it('counts the kept comments that went into it; the same words are kept once, and can be dropped', () => {
    const kept = must(keepComment(teacher(), school.courseId, essay, ' Name the tide. '));
    expect(must(keepComment(teacher(), school.courseId, essay, 'Name the tide.')).id).toBe(kept.id);
    must(give({ comment: kept.text, used: [kept.id] }));
    const comments = () => must(answersToMark(teacher(), school.courseId, sittingId, essay)).questions[0]?.comments;
    expect(comments()).toEqual([{ id: kept.id, text: 'Name the tide.', used: 1 }]);
    must(dropComment(teacher(), school.courseId, kept.id));
    expect(comments()).toEqual([]);
    expect(body()?.comment).toBe('Name the tide.');
    expect(refusal(keepComment(teacher(), school.courseId, essay, '  '))).toBe('bad-input');
    expect(refusal(keepComment(school.as(school.elsewhere.teacher), school.elsewhere.courseId, essay, 'x'))).toBe(
      'not-found',
    );
  });

  it('is never written over another’s unseen: whoever was slower is told by whom and what', () => {
    const seen = body()?.markId ?? null;
    must(
      giveMark(school.as(school.marker, 61 * minute), school.courseId, slotId, {
        points: 2,
        comment: '',
        revision: 1,
        before: seen,
      }),
    );
    const refused = give({ before: seen });
    expect(refused).toMatchObject({ ok: false });
    expect(JSON.stringify(refused)).toContain('has given this answer 2 points meanwhile');
    // Also where the points are the same: the comment might not be.
    expect(refusal(give({ points: 2, before: seen }))).toBe('conflict');
    expect(school.db.select().from(mark).where(eq(mark.slotId, slotId)).all()).toHaveLength(1);
  });

  it('is adjusted with a reason, whoever or whatever gave it, and keeps its history', () => {
    must(give());
    const adjust = (input: object) =>
      adjustMark(teacher(70), school.courseId, slotId, { revision: 1, before: body()?.markId ?? null, ...input });
    expect(refusal(adjust({ points: 4, reason: ' ' }))).toBe('bad-input');
    expect(refusal(adjust({ points: 7, reason: 'x' }))).toBe('bad-input');
    must(adjust({ points: 4, reason: 'Appeal' }));
    expect(historyOf(school.db, [slotId]).get(slotId)).toMatchObject([
      { kind: 'hand', points: 3, by: school.teacher.name, reason: '', fallen: null },
      { kind: 'adjusted', points: 4, by: school.teacher.name, reason: 'Appeal', fallen: null },
    ]);
    expect(refusal(adjustMark(school.as(school.marker, 71 * minute), school.courseId, slotId, {}))).toBe('not-allowed');
  });

  it('of a paper as a whole moves its score within 0 and what is possible; the newest adjustment holds', () => {
    must(give());
    const result = () =>
      must(sittingResults(teacher(), school.courseId, sittingId)).rows.find((row) => row.result)?.result;
    const first = must(
      adjustPaper(teacher(), school.courseId, attemptId, { points: 1.5, reason: 'Noise', before: null }),
    );
    expect(result()).toMatchObject({ earned: 4.5, possible: 6 });
    expect(refusal(adjustPaper(teacher(), school.courseId, attemptId, { points: 1, reason: 'x', before: null }))).toBe(
      'conflict',
    );
    must(adjustPaper(teacher(), school.courseId, attemptId, { points: -9, reason: 'Noise, again', before: first.id }));
    expect(result()).toMatchObject({ earned: 0, possible: 6 });
    expect(refusal(adjustPaper(teacher(), school.courseId, attemptId, { points: 1, reason: '', before: null }))).toBe(
      'bad-input',
    );
    expect(
      refusal(
        adjustPaper(school.as(school.elsewhere.teacher), school.elsewhere.courseId, attemptId, {
          points: 1,
          reason: 'x',
          before: null,
        }),
      ),
    ).toBe('not-found');
  });
});

describe('answers in an order', () => {
  it('come as they were handed in, alike ones side by side, or paper by paper; the rest is fetched', () => {
    school = new School(25);
    const one = school.question(writtenContent('one'));
    const two = school.question(writtenContent('two'));
    const sittingId = school.sitting(school.exam([school.fixed(one, 2), school.fixed(two, 2)]));
    const texts = ['fog', 'rain', 'Fog.', 'Rain!', 'wind'];
    school.students.forEach((who, i) => {
      takePaper(school, sittingId, who, [{ text: texts[i % 5] }, { text: `two of ${i}` }], 1 + i);
    });
    const page = must(answersToMark(teacher(), school.courseId, sittingId, one, 'handed-in'));
    expect(page.heads).toHaveLength(25);
    expect(page.bodies).toHaveLength(20);
    const rest = page.heads.slice(20).map((head) => head.slotId);
    const others = must(moreAnswers(teacher(), school.courseId, sittingId, [...rest, 'nobody']));
    expect([...page.bodies, ...others].map((body) => body.text)).toEqual(school.students.map((_, i) => texts[i % 5]));
    const similar = must(answersToMark(teacher(), school.courseId, sittingId, one, 'similar'));
    const words = must(
      moreAnswers(
        teacher(),
        school.courseId,
        sittingId,
        similar.heads.map((head) => head.slotId),
      ),
    );
    const kinds = words.map((body) => body.text.toLowerCase().replace(/\W/g, ''));
    expect(kinds.filter((kind, i) => kind !== kinds[i - 1])).toHaveLength(3);
    const papers = must(papersToMark(teacher(), school.courseId, sittingId));
    expect(papers.heads).toHaveLength(50);
    expect(papers.heads.slice(0, 4).map((head) => head.paper)).toEqual([1, 1, 2, 2]);
    expect(JSON.stringify(papers)).not.toContain(student(3).name);
    expect(refusal(papersToMark(school.as(school.marker), school.courseId, sittingId))).toBe('not-found');
  });

  it('say which questions of a choose-part were answered, and what stood there in an earlier attempt', () => {
    const ids = [1, 2, 3].map((n) => school.question(writtenContent(`essay ${n}`)));
    const sittingId = school.sitting(
      school.exam(
        ids.map((id) => school.fixed(id, 2)),
        null,
        (design) => ({
          ...design,
          parts: design.parts.map((part) => ({ ...part, choose: { count: 1, extra: 'best' as const } })),
        }),
      ),
      { attemptsAllowed: 2, further: { nextPaper: 'same' } },
    );
    takePaper(school, sittingId, student(0), [null, { text: 'at first' }], 1);
    takePaper(school, sittingId, student(0), [null, { text: 'at last' }, { text: 'and more' }], 20);
    const page = must(answersToMark(teacher(), school.courseId, sittingId, ids[1] as string));
    const last = page.bodies.find((body) => body.text === 'at last');
    expect(last?.chosen).toEqual({ answered: [2, 3], count: 1, own: 2 });
    expect(last?.earlier.map((one) => [one.attempt, one.text])).toEqual([[1, 'at first']]);
  });
});

describe('similar answers together', () => {
  let sittingId: string;
  let essay: string;
  beforeEach(() => {
    essay = school.question(writtenContent('What reduces visibility?'));
    sittingId = school.sitting(school.exam([school.fixed(essay, 2)]), { markerIds: [school.marker.userId] });
    for (const [i, text] of ['Fog', 'fog.', 'fgo', 'mist'].entries())
      takePaper(school, sittingId, student(i), [{ text }]);
  });
  const together = (least: number) => must(answersTogether(teacher(), school.courseId, sittingId, essay, least));
  const chosen = (least: number) =>
    (together(least).groups[0]?.answers ?? []).map(({ slotId, revision, markId }) => ({
      slotId,
      revision,
      before: markId,
    }));

  it('are grouped as the slider says, marked in one act, and taken back in one', () => {
    expect(together(1).groups.map((group) => group.answers.length)).toEqual([2, 1, 1]);
    expect(together(0.6).groups.map((group) => group.answers.length)).toEqual([3, 1]);
    const done = must(markGroup(teacher(), school.courseId, { points: 2, comment: 'Right.', answers: chosen(0.6) }));
    expect(done.marked).toBe(3);
    expect(together(0.6).groups[0]?.answers.every((one) => one.points === 2)).toBe(true);
    expect(must(markingQueue(teacher(), school.courseId))[0]).toMatchObject({ waiting: 1, marked: 3 });
    // One of them is marked again by itself: taking the group back leaves that.
    const one = together(0.6).groups[0]?.answers[0];
    must(
      giveMark(teacher(), school.courseId, one?.slotId ?? '', {
        points: 1,
        comment: '',
        revision: one?.revision,
        before: one?.markId,
      }),
    );
    expect(must(takeBackMarks(teacher(), school.courseId, done.batch))).toEqual({ takenBack: 2, later: 1 });
    expect(
      together(0.6)
        .groups[0]?.answers.map((answer) => answer.points)
        .sort(),
    ).toEqual([1, null, null]);
    expect(refusal(takeBackMarks(teacher(), school.courseId, done.batch))).toBe('accepted');
  });

  it('are marked all or none, and never over another’s unseen mark', () => {
    const before = chosen(0.6);
    const one = before[1];
    must(
      giveMark(school.as(school.marker, 61 * minute), school.courseId, one?.slotId ?? '', {
        points: 1,
        comment: '',
        revision: 1,
        before: null,
      }),
    );
    expect(refusal(markGroup(teacher(), school.courseId, { points: 2, comment: '', answers: before }))).toBe(
      'conflict',
    );
    expect(refusal(markGroup(teacher(), school.courseId, { points: 9, comment: '', answers: chosen(0.6) }))).toBe(
      'bad-input',
    );
    expect(refusal(markGroup(teacher(), school.courseId, { points: 1, comment: '', answers: [] }))).toBe('bad-input');
    expect(school.db.select().from(mark).all()).toHaveLength(1);
    expect(refusal(takeBackMarks(school.as(school.marker), school.courseId, 'none'))).toBe('not-found');
  });
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
    must(previewRemark(teacher(), school.courseId, questionId, { policy, ...more }));
  const apply = (questionId: string, policy: string, key: string) =>
    applyRemark(teacher(), school.courseId, questionId, { policy, key, reason: 'The key was wrong.' });

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
    const { remarkId } = must(apply(number, policy, preview.key));
    expect(results(sittingId).map(([, earned, possible]) => [earned, possible])).toEqual(after);
    expect(look(number, policy).changing).toBe(0);
    must(takeBackRemark(teacher(), school.courseId, remarkId));
    expect(results(sittingId)).toEqual(before);
    expect(school.db.select().from(remark).get()?.takenBackAt).not.toBeNull();
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
    expect(refusal(applyRemark(teacher(), school.courseId, number, { policy: 'new-key', key, reason: '' }))).toBe(
      'bad-input',
    );
    expect(refusal(apply(number, 'everyone', key))).toBe('conflict');
    must(apply(number, 'new-key', key));
    expect(refusal(apply(number, 'new-key', key))).toBe('conflict');
    expect(refusal(apply(number, 'new-key', look(number, 'new-key').key))).toBe('bad-input');
  });

  it('flags published results, and never changes them by itself', () => {
    must(publishReady(teacher(), school.courseId, sittingId, 4));
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

  it('honours what tries cost, and choose-parts', () => {
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

describe('the queue', () => {
  it('says how long answers wait, and who marks besides', () => {
    const essay = school.question(writtenContent('essay'));
    const sittingId = school.sitting(school.exam([school.fixed(essay, 2)]), { markerIds: [school.marker.userId] });
    takePaper(school, sittingId, student(0), [{ text: 'a' }], 1);
    takePaper(school, sittingId, student(1), [{ text: 'b' }], 5);
    const [row] = must(markingQueue(teacher(), school.courseId));
    expect(row).toMatchObject({ waiting: 2, oldest: teacher(10).now, markers: [school.marker.name] });
    expect(must(markingQueue(school.as(school.marker), school.courseId))).toHaveLength(1);
  });
});
