import sharp from 'sharp';
import type { GreyPicture } from '../src/core/answerSheet/greyPicture';
import { usualGrid } from '../src/core/answerSheet/questionRows';
import { knownLayouts, readPage } from '../src/core/answerSheet/readPage';
import type { SheetPage } from '../src/core/answerSheet/sheetLayout';
import { type Marked, markPage, type Stroke, takePicture } from '../src/core/answerSheet/standIn';
import { quickRandom, type Random } from '../src/core/base/random';
import { day, hour, minute } from '../src/core/base/time';
import { rightResponse } from '../src/core/question/score';
import { forStudent } from '../src/core/question/student';
import { printedSheets } from '../src/print/fillSheets';
import { bringSheetPage, leaveSheetPagesOut, settleSheetRow } from '../src/server/answerSheet/bringPages';
import { orderOfSheets } from '../src/server/answerSheet/printAnswerSheets';
import { seeReading } from '../src/server/answerSheet/seeReading';
import { previewSheets, takeSheets } from '../src/server/answerSheet/takeSheets';
import { type StudentPaper, studentPapers } from '../src/server/print/studentPapers';
import { sittingOf } from '../src/server/records/audience';
import { knows } from './answers';
import { must, type RoundStage } from './rounds';

/** What went wrong on some sheets: the row, and what was done to a box beside the one that was meant, or instead of it. */
const slips: Readonly<Record<number, { row: number; beside?: Stroke; instead?: Stroke }>> = {
  1: { row: 2, beside: 'erased' },
  4: { row: 6, beside: 'crossed' },
  7: { row: 8, instead: 'faint' },
};

const sheetsAsPrinted = {
  whose: 'made-out' as const,
  blanks: 1,
  size: 100,
  perPage: 4 as const,
  bothSides: false,
  grid: usualGrid,
  trial: false,
};

/** What a student fills in on a sheet of one row a question, and where a pencil slipped. */
function filledIn(
  paper: StudentPaper,
  page: SheetPage,
  ability: number,
  slip: (typeof slips)[number] | undefined,
  random: Random,
): { marked: Marked; meant: string[] } {
  const marked: Marked = [];
  const meant: string[] = [];
  for (const [row, { content, presentation }] of paper.sources.entries()) {
    const view = forStudent(content, presentation);
    if (view.type !== 'single-choice') continue;
    const right = rightResponse(content, presentation) as { picked: string };
    const at = view.choices.findIndex((choice) => choice.key === right.picked);
    const others = view.choices.length - 1;
    const option = knows(ability, 'medium', random) ? at : (at + 1 + random.below(others)) % view.choices.length;
    meant[row] = 'ABCDEFGHIJ'[option] as string;
    const box = (wanted: number) => page.boxes.findIndex((one) => one.row === row && one.option === wanted);
    const own = slip?.row === row ? slip : undefined;
    marked.push({ box: box(option), stroke: own?.instead ?? (random.below(10) < 7 ? 'filled' : 'crossed') });
    if (own?.beside) marked.push({ box: box((option + 1) % view.choices.length), stroke: own.beside });
  }
  return { marked, meant };
}

/** A corner that was folded over when the sheet was copied. */
function folded({ width, height, data }: GreyPicture): GreyPicture {
  const copy = Uint8Array.from(data);
  for (let y = Math.floor(height * 0.8); y < height; y++)
    copy.fill(250, y * width + Math.floor(width * 0.75), (y + 1) * width);
  return { width, height, data: copy };
}

const packed = ({ width, height, data }: GreyPicture): Promise<Buffer> =>
  sharp(data, { raw: { width, height, channels: 1 } })
    .webp({ quality: 60 })
    .toBuffer();

/**
 * A test that was written on paper yesterday: the sheets of one section are read in, those of the other are being looked
 * through, with some marks in doubt and one page put aside.
 */
export async function readFromPaper(stage: RoundStage, sittingId: string): Promise<void> {
  const { db, courseId, today, students } = stage;
  const row = sittingOf(db, courseId, sittingId);
  if (!row) return;
  const printing = stage.as(stage.teacher, today - 2 * day);
  const { order, papers } = db.transaction((tx) => ({
    order: must(orderOfSheets(tx, printing, row, sheetsAsPrinted)),
    papers: must(studentPapers(tx, printing, row)).papers,
  }));
  const layouts = knownLayouts(Object.entries(order.layouts).map(([id, plan]) => ({ id, plan })));
  const ability = new Map(students.map((one) => [one.name, one.ability]));
  const section = (name: string) => papers.filter((one) => one.student.section === name).map((one) => one.student.name);
  const read = async (names: readonly string[], at: number, isClean: boolean) => {
    const context = stage.as(stage.teacher, at);
    const wanted = { ...order, sheets: order.sheets.filter((sheet) => names.includes(sheet.name ?? '')) };
    let n = -1;
    for await (const { sheet, blank } of printedSheets(wanted)) {
      n += 1;
      const paper = papers.find((one) => one.student.name === sheet.name);
      if (!paper) continue;
      const random = quickRandom('a test on paper', sheet.name ?? '');
      const { marked, meant } = filledIn(
        paper,
        sheet.laidOut,
        ability.get(paper.student.name) ?? 0,
        isClean ? undefined : slips[n],
        random,
      );
      const { picture } = takePicture(markPage(blank, sheet.laidOut, marked, random), sheet.laidOut, 'copier', random);
      const [page] = readPage(!isClean && n === 10 ? folded(picture) : picture, layouts);
      if (!page) continue;
      const found = { ...page.found, source: `scan.pdf, page ${n + 1}` };
      const { pageId } = must(await bringSheetPage(context, courseId, sittingId, found, await packed(page.kept)));
      if (!isClean) continue;
      // Whoever read them looked at what was in doubt, and saw what was meant.
      const doubts =
        must(seeReading(context, courseId, sittingId))?.pages.find((one) => one.id === pageId)?.doubts ?? [];
      for (const doubt of doubts)
        must(settleSheetRow(context, courseId, sittingId, pageId, doubt, [meant[doubt] as string]));
      if (page.found.problem) must(leaveSheetPagesOut(context, courseId, sittingId, [pageId], true));
    }
    if (!isClean) return;
    const { key } = must(previewSheets(context, courseId, sittingId));
    must(takeSheets(stage.as(stage.teacher, at + 5 * minute), courseId, sittingId, key));
  };
  // Two were ill, and one sheet lies in another pile.
  await read(section('Weekday').slice(0, -2), today - 20 * hour, true);
  await read(section('Evening').slice(0, -1), today - 2 * hour, false);
}
