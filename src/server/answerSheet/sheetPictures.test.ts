import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { beforeEach, describe, expect, it } from 'vitest';
import { layOutSheet } from '@/core/answerSheet/sheetLayout';
import { pieceOfRows } from '@/core/answerSheet/sheetPiece';
import type { SheetPlan } from '@/core/answerSheet/sheetRow';
import { hour } from '@/core/base/time';
import type { Fact, ReleasePlan } from '@/core/release/plan';
import { paperSlot, sheetPage } from '@/db/schema';
import type { Actor } from '../house/context';
import { answersToMark } from '../marking/answersToMark';
import { markedPaper } from '../marking/responses';
import { myReview } from '../release/review';
import { foundOn, PaperSheets, withoutPrinter } from '../testing/paperSheets';
import { planOf, window } from '../testing/releaseSchool';
import { must, numberContent, refusal, School, writtenContent } from '../testing/school';
import { openSheet, openSheetPiece } from './sheetPictures';

withoutPrinter();

/** Five pixels for a millimetre, as a page is kept. */
const dots = 5;
let school: School;
let sheets: PaperSheets;
let plan: SheetPlan;
let essay: string;
beforeEach(() => {
  school = new School(2);
  essay = school.question(writtenContent('Why?'));
});

/** One student's sheet, with a number and points for a text, read into an attempt under a release plan. */
async function readIn(shown: readonly Fact[] | ReleasePlan, markerIds = [school.marker.userId]) {
  const releasePlan = Array.isArray(shown) ? planOf(shown as Fact[], window('on-hand-in')) : shown;
  const lines = [school.fixed(school.question(numberContent('How much?', '3'))), school.fixed(essay, 4)];
  const sittingId = school.sitting(school.exam(lines), { releasePlan, markerIds });
  sheets = new PaperSheets(school, sittingId);
  const order = await sheets.print();
  const found = foundOn(order, 'Student 1', { 0: ['3', '', '', '', '', ''], 1: ['2'] });
  plan = order.layouts[order.sheets[0]?.layout ?? ''] as SheetPlan;
  const [laidOut] = layOutSheet(plan);
  const picture = await sharp({
    create: {
      width: (laidOut?.width ?? 0) * dots,
      height: (laidOut?.height ?? 0) * dots,
      channels: 3,
      background: '#fff',
    },
  })
    .webp()
    .toBuffer();
  const pageId = await sheets.bring(found, picture);
  sheets.take();
  const attemptId = school.db.select().from(sheetPage).where(eq(sheetPage.id, pageId)).get()?.attemptId ?? '';
  const slots = school.db
    .select()
    .from(paperSlot)
    .where(eq(paperSlot.attemptId, attemptId))
    .orderBy(paperSlot.position)
    .all()
    .map((slot) => slot.id);
  return { sittingId, pageId, slots: slots as [string, string] };
}
const looks = (who: Actor) => school.as(who, 3 * hour);
const [whole, piece] = [
  async (who: Actor, pageId: string) => (await openSheet(looks(who), pageId)).ok,
  async (who: Actor, slotId: string) => (await openSheetPiece(looks(who), slotId)).ok,
];

describe('the picture of a sheet', () => {
  it('is seen by its student as far as own answers are shown, and by nobody else of the class', async () => {
    const { sittingId, pageId, slots } = await readIn(['questions', 'own-answers', 'right-or-wrong']);
    const [ada, bo] = school.students as [Actor, Actor];
    expect(await whole(ada, pageId)).toBe(true);
    expect(await piece(ada, slots[0])).toBe(true);
    expect(await piece(ada, slots[1])).toBe(true);
    const review = must(myReview(looks(ada), sittingId));
    expect(review.sheets).toEqual([{ pageId, page: 1 }]);
    expect(review.questions.map((one) => [one.onSheet, one.onPaper])).toEqual([
      ['answer', false],
      ['points', true],
    ]);
    for (const who of [bo, school.marker]) expect(refusal(await openSheet(looks(who), pageId))).toBe('not-found');
    expect(await piece(bo, slots[0])).toBe(false);
    expect(await whole(school.teacher, pageId)).toBe(true);
  });

  it('is kept back with the points on it while it is not shown what was right', async () => {
    const { sittingId, pageId, slots } = await readIn(['questions', 'own-answers']);
    const [ada] = school.students as [Actor];
    expect(await whole(ada, pageId)).toBe(false);
    expect(await piece(ada, slots[0])).toBe(true);
    expect(await piece(ada, slots[1])).toBe(false);
    const review = must(myReview(looks(ada), sittingId));
    expect(review.sheets).toEqual([]);
    expect(review.questions.map((one) => one.onSheet)).toEqual(['answer', null]);
  });

  it.each([
    [['score', 'questions']],
    [planOf(['questions', 'own-answers', 'right-or-wrong'], window('on-publishing'))],
  ])('is nobody’s of the class while own answers are not shown', async (shown) => {
    const { pageId, slots } = await readIn(shown as Fact[]);
    const [ada] = school.students as [Actor];
    expect(await whole(ada, pageId)).toBe(false);
    expect(await piece(ada, slots[0])).toBe(false);
    expect(await piece(school.teacher, slots[0])).toBe(true);
  });

  it('is cut to the question for whoever marks: they see no name, and only sittings given to them', async () => {
    const { sittingId, pageId, slots } = await readIn([]);
    const found = must(await openSheetPiece(looks(school.marker), slots[1]));
    const { width, height } = await sharp(found.bytes).metadata();
    const place = pieceOfRows(layOutSheet(plan)[0] as never, [1]);
    expect(Math.abs((width ?? 0) - (place?.width ?? 0) * dots)).toBeLessThanOrEqual(2);
    expect(Math.abs((height ?? 0) - (place?.height ?? 0) * dots)).toBeLessThanOrEqual(2);
    expect(await whole(school.marker, pageId)).toBe(false);
    expect(must(answersToMark(looks(school.teacher), school.courseId, sittingId, essay)).bodies[0]).toMatchObject({
      onSheet: 'points',
      whose: 'Student 1',
    });
    const paper = must(
      markedPaper(looks(school.teacher), school.courseId, sittingId, school.students[0]?.userId ?? ''),
    );
    expect(paper.sheets).toEqual([{ pageId, page: 1 }]);
    expect(paper.questions.map((one) => one.onSheet)).toEqual(['answer', 'points']);
    const ofOthers = await readIn([], []);
    expect(await piece(school.marker, ofOthers.slots[1])).toBe(false);
  });

  it('goes when the sheet is taken back', async () => {
    const lines = [school.fixed(school.question(numberContent('How much?', '3')))];
    const sittingId = school.sitting(school.exam(lines), {
      releasePlan: planOf(['questions', 'own-answers'], window('on-hand-in')),
    });
    sheets = new PaperSheets(school, sittingId);
    const order = await sheets.print();
    const picture = await sharp({ create: { width: 970, height: 1405, channels: 3, background: '#fff' } })
      .webp()
      .toBuffer();
    const pageId = await sheets.bring(foundOn(order, 'Student 1', { 0: ['3', '', '', '', '', ''] }), picture);
    const { auditId } = sheets.take();
    const [ada] = school.students as [Actor];
    expect(await whole(ada, pageId)).toBe(true);
    must(sheets.undo(auditId));
    expect(await whole(ada, pageId)).toBe(false);
    expect(await whole(school.teacher, pageId)).toBe(true);
  });
});
