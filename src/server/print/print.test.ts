import { isNull } from 'drizzle-orm';
import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { usualMatching } from '@/core/question/text/acceptedText';
import { questionTypes } from '@/core/question/types';
import { anyOf } from '@/core/testing/anyQuestion';
import { paperSlot, poolSnapshot, question, questionVersion } from '@/db/schema';
import { printPapers } from '../../print/printPapers';
import { readPdf } from '../../print/testing/readPdf';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import type { Actor } from '../house/context';
import { begins, must, refusal, School } from '../testing/school';
import { papersOfSitting, sampleForPrint } from './printOrder';

let school: School;
beforeEach(() => {
  school = new School(3);
});
const teacher = () => school.as(school.teacher, minute);
const ofSitting = (sittingId: string, withKey = false) =>
  must(papersOfSitting(teacher(), school.courseId, sittingId, withKey));

describe('a printed sample paper', () => {
  it('holds no key unless it is asked for, and then the right boxes of this paper', () => {
    school.questions(6);
    const examId = school.exam([school.draw(4, 2)]);
    const plain = must(sampleForPrint(teacher(), school.courseId, examId, '1', false));
    expect(JSON.stringify(plain)).not.toMatch(/"right":|solution of|feedback/);
    const withKey = must(sampleForPrint(teacher(), school.courseId, examId, '1', true));
    expect(withKey.points).toBe('8 points');
    for (const [i, slot] of withKey.slots.entries()) {
      expect(slot.view).toEqual(plain.slots[i]?.view);
      const choices = slot.view.type === 'single-choice' ? slot.view.choices : [];
      const right = choices.find((choice) => JSON.stringify(choice.content).includes('"right"'));
      expect(slot.key).toMatchObject({ text: 'right', right: [right?.key] });
    }
  });

  it('says what a choose-part asks for, and carries its points only', () => {
    school.questions(6);
    const examId = school.exam([school.draw(4, 3)], null, (design) => ({
      ...design,
      parts: design.parts.map((part) => ({ ...part, choose: { count: 2, extra: 'best' as const } })),
    }));
    const paper = must(sampleForPrint(teacher(), school.courseId, examId, '1', false));
    expect([paper.points, paper.slots[0]?.choose]).toEqual(['6 points', 'Answer any 2 of these 4 questions.']);
  });

  it('is a PDF with its fonts in it, for questions of every type in any letters', async () => {
    for (const type of questionTypes)
      for (const content of fc.sample(anyOf[type] as fc.Arbitrary<QuestionContent>, { seed: 3, numRuns: 1 }))
        school.question(content);
    const mathematics = {
      type: 'math' as const,
      attrs: { tex: '\\frac{a^2}{\\sqrt{b}} \\le 12^\\circ', display: false },
    };
    school.question({
      type: 'short-text',
      stem: {
        type: 'doc',
        content: [
          { type: 'paragraph', content: [{ type: 'text', text: 'Ελένη, Иван → ≥ Łódź: ' }, mathematics] },
          {
            type: 'table',
            content: [
              {
                type: 'tableRow',
                content: [{ type: 'tableHeader', content: richFromText('high water').content }],
              },
            ],
          },
        ],
      },
      accepted: [],
      matching: usualMatching,
      feedback: {},
    });
    const ids = school.db.select().from(question).all();
    const examId = school.exam(ids.map((one) => school.fixed(one.id)));
    const paper = must(sampleForPrint(teacher(), school.courseId, examId, '1', true));
    const told: number[] = [];
    const bytes = await printPapers({ papers: [paper, paper], pictures: {} }, (done) => told.push(done));
    expect(told).toEqual([2]);
    const pdf = await readPdf(bytes);
    expect(pdf.pages.length % 2).toBe(0);
    expect(pdf).toMatchObject({ language: 'en', isTagged: true });
    const text = pdf.pages.join('\n');
    for (const words of ['Ελένη, Иван → ≥ Łódź:', 'high water', '– with key', 'Sample paper 1'])
      expect(text).toContain(words);
    expect(bytes.length).toBeLessThan(600_000);
  });
});

describe('the papers of a sitting', () => {
  it('are those that the students get, printed before they start or after', () => {
    school.questions(12);
    const sittingId = school.sitting(school.exam([school.draw(5)]));
    const [first] = school.students as [Actor];
    const printed = ofSitting(sittingId);
    expect(printed.map((paper) => paper.student)).toEqual(['Student 1', 'Student 2', 'Student 3']);
    const { attemptId } = must(startAttempt(school.as(first, 2 * minute), sittingId));
    const taken = must(openForWriting(school.as(first, 2 * minute), attemptId));
    expect(printed[0]?.slots.map((slot) => slot.view)).toEqual(taken.slots.map((slot) => slot.view));
    expect(ofSitting(sittingId)[0]?.slots).toEqual(printed[0]?.slots);
    expect(new Set(printed.map((paper) => JSON.stringify(paper.slots))).size).toBe(3);
  });

  it('fix the questions, so that what the bank gains later changes no printed paper', () => {
    school.questions(8);
    const sittingId = school.sitting(school.exam([school.draw(4)]));
    const before = ofSitting(sittingId);
    expect(school.db.select().from(poolSnapshot).all()).toHaveLength(1);
    school.questions(30);
    expect(ofSitting(sittingId)).toEqual(before);
    expect(school.db.select().from(paperSlot).all()).toEqual([]);
  });

  it('of an anonymous sitting are one that is the same for everyone; others print none', () => {
    school.questions(3);
    const anonymous = school.sitting(
      school.exam([school.draw(2)], null, (design) => ({
        ...design,
        purpose: { scored: false, counts: 'no', anonymous: true },
      })),
    );
    const papers = must(papersOfSitting(teacher(), school.courseId, anonymous, false));
    expect(papers.map((paper) => [paper.student, paper.code])).toEqual([['', 'The same for everyone']]);
    // All that could be drawn stands fast, not only what is on it: as from a first start on.
    const loose = school.db.select().from(questionVersion).where(isNull(questionVersion.frozenAt)).all();
    expect(loose).toEqual([]);
    const sittingId = school.sitting(school.exam([school.draw(2)]));
    for (const who of [school.students[0], school.marker, school.elsewhere.teacher])
      expect(['not-allowed', 'not-found']).toContain(
        refusal(papersOfSitting({ db: school.db, actor: who as Actor, now: begins }, school.courseId, sittingId, true)),
      );
  });
});
