import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { mark } from '@/db/schema';
import type { Actor } from '../house/context';
import { sittingResults } from '../release/results';
import { must, refusal, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { undoChange } from '../undoChange';
import { adjustMark, adjustPaper, historyOf } from './adjust';
import { answersToMark, moreAnswers, papersToMark } from './answersToMark';
import { giveMark, takeBackMarks } from './giveMark';
import { answersTogether, markGroup } from './groups';
import { markingQueue } from './markingQueue';
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
    expect(must(undoChange(teacher(), school.courseId, done.auditId)).said).toBe(
      '2 marks taken back; 1 answer has been marked again since and keeps that.',
    );
    expect(
      together(0.6)
        .groups[0]?.answers.map((answer) => answer.points)
        .sort(),
    ).toEqual([1, null, null]);
    expect(refusal(undoChange(teacher(), school.courseId, done.auditId))).toBe('conflict');
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
