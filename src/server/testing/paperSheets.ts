import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, vi } from 'vitest';
import { usualGrid } from '@/core/answerSheet/questionRows';
import { sheetCodeText } from '@/core/answerSheet/sheetCode';
import { layOutSheet, type SheetPage, studentRow } from '@/core/answerSheet/sheetLayout';
import type { AnswerSheetOrder } from '@/core/answerSheet/sheetOrder';
import { boxLabels, gridSigns, type SheetPlan } from '@/core/answerSheet/sheetRow';
import { minute } from '@/core/base/time';
import type { PrintOrder } from '@/core/print/printOrder';
import { bringSheetPage } from '../answerSheet/bringPages';
import { answerSheetsPrint, printAnswerSheets } from '../answerSheet/printAnswerSheets';
import { previewSheets, takeSheets } from '../answerSheet/takeSheets';
import { printer } from '../print/printApart';
import { undoChange } from '../undoChange';
import { must, type School } from './school';

/** What was sent to the printer, which prints nothing in tests. */
export const printed: AnswerSheetOrder[] = [];

/** Puts a printer that prints nothing, and a folder of its own, in the place of the real ones, for the tests of a file. */
export function withoutPrinter(): void {
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-sheets-'));
  vi.stubEnv('WUZZEN_DATA', folder);
  vi.spyOn(printer, 'print').mockImplementation((order: PrintOrder) => {
    if ('answerSheets' in order) printed.push(order.answerSheets);
    return { bytes: Promise.resolve(new Uint8Array()), end: () => undefined };
  });
  afterAll(() => {
    rmSync(folder, { recursive: true, force: true });
    vi.restoreAllMocks();
  });
}

/** How sheets are printed unless a test says otherwise. */
export const sheetsAsUsual = {
  grid: usualGrid,
  whose: 'made-out' as const,
  blanks: 5,
  size: 100,
  perPage: 1 as const,
  bothSides: false,
  trial: false,
};

/** What a reader finds on a sheet on which these boxes are filled in: for each row its signs. */
export function foundOn(
  order: AnswerSheetOrder,
  name: string | null,
  filled: Readonly<Record<number, readonly string[]>>,
  more: { copy?: number; faint?: number } = {},
) {
  const sheet =
    order.sheets.find((one) => one.name === name && (more.copy === undefined || one.copy === more.copy)) ??
    expect.fail(`no sheet of ${name}`);
  const plan = order.layouts[sheet.layout] as SheetPlan;
  const page = layOutSheet(plan)[0] as SheetPage;
  const signOf = (row: number, option: number): string => {
    const asked = plan.rows[row];
    if (row === studentRow) return String(option);
    if (asked?.kind === 'number') return gridSigns(asked)[option] as string;
    return asked ? (boxLabels(asked)[option] as string) : '';
  };
  const darkness = page.boxes.map((box) => {
    if (box.row === more.faint) return 17;
    const asked = box.row === studentRow || plan.rows[box.row]?.kind === 'number';
    const wanted = filled[box.row] ?? [];
    const isFilled = asked
      ? wanted[box.column] === signOf(box.row, box.option)
      : wanted.includes(signOf(box.row, box.option));
    return isFilled ? 60 : 2;
  });
  const code = sheetCodeText({ installation: order.installation, layout: sheet.layout, copy: sheet.copy, page: 1 });
  return { source: 'scan.pdf, page 1', problem: null, code, darkness };
}

/** The answer sheets of a sitting, in the hands of its instructor. */
export class PaperSheets {
  private later = 10 * minute;

  constructor(
    readonly school: School,
    readonly sittingId: string,
  ) {}

  /** The instructor, a minute later each time. */
  teacher() {
    this.later += minute;
    return this.school.as(this.school.teacher, this.later);
  }

  /** Prints, and gives what was sent to the printer. */
  async print(
    change: Partial<Omit<typeof sheetsAsUsual, 'whose' | 'perPage'>> & {
      whose?: 'made-out' | 'blank';
      perPage?: 1 | 2 | 4;
    } = {},
  ) {
    const { courseId } = this.school;
    must(printAnswerSheets(this.teacher(), courseId, this.sittingId, { ...sheetsAsUsual, ...change }));
    // The print is written down as done once its bytes are there.
    await vi.waitFor(() =>
      expect(must(answerSheetsPrint(this.teacher(), courseId, this.sittingId))?.state).not.toBe('running'),
    );
    return printed.at(-1) ?? expect.fail('nothing was printed');
  }

  /** @param files where its picture is kept; the usual folder unless it is named */
  async bring(page: Parameters<typeof bringSheetPage>[3], picture = new Uint8Array(), files?: string) {
    const context = files === undefined ? this.teacher() : { ...this.teacher(), files };
    return must(await bringSheetPage(context, this.school.courseId, this.sittingId, page, picture)).pageId;
  }

  preview() {
    return must(previewSheets(this.teacher(), this.school.courseId, this.sittingId));
  }

  take() {
    return must(takeSheets(this.teacher(), this.school.courseId, this.sittingId, this.preview().key));
  }

  undo(auditId: number) {
    return undoChange(this.teacher(), this.school.courseId, auditId);
  }
}
