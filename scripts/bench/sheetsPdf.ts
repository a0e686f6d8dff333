import { richFromText } from '../../src/core/base/rich';
import type { SheetBlock, SheetDocument } from '../../src/core/gradebook/sheetDocument';
import { printSheets } from '../../src/print/printSheets';
import { report } from './measure';

const students = 100;

/** A sheet of two pages: score, band, objectives, ten missed questions with solutions, room for a reply. */
function sheet(n: number): SheetDocument {
  const question = (i: number): SheetBlock => ({
    kind: 'question',
    number: String(i + 1),
    points: '1 of 2',
    stem: richFromText(`Question ${i + 1}: low water is 1.0 m, high water 5.8 m. What is the height two hours later?`),
    answer: '2.0',
    verdict: 'partly right',
    why: null,
    right: '2.2',
    solution: richFromText('Range 4.8 m, a twelfth is 0.4 m; after two hours 1 + 2 = 3 twelfths.'),
    comment: i % 4 ? '' : 'Look again at the range.',
  });
  return {
    fileName: `Student ${n}.pdf`,
    title: 'Theory exam',
    note: `Student ${n} · 10${n}`,
    foot: `Theory exam · Student ${n}`,
    blocks: [
      { kind: 'result', text: '27 of 40 points', note: '67.5 %' },
      { kind: 'text', text: 'Sound work; look again at what you missed.' },
      {
        kind: 'table',
        head: ['Objective', 'Points', '%'],
        right: [1, 2],
        rows: Array.from({ length: 8 }, (_, i) => [`N${i + 1} Finds the height of tide`, '5 of 8', '63']),
      },
      ...Array.from({ length: 10 }, (_, i) => question(i)),
      { kind: 'lines', label: 'Your reply', count: 6 },
    ],
  };
}

/** sheets.pdf: feedback sheets of 100 students as PDF, with progress. Baseline: the same sheets as DOCX, which lays out nothing. */
export async function sheetsPdf(): Promise<void> {
  const sheets = Array.from({ length: students }, (_, n) => sheet(n + 1));
  const timed = async (format: 'pdf' | 'docx') => {
    let told = 0;
    const begun = performance.now();
    const bytes = await printSheets({ sheets, format, into: 'archive', pictures: {} }, () => {
      told += 1;
    });
    return { took: performance.now() - begun, told, bytes: bytes.length };
  };
  await printSheets({ sheets: sheets.slice(0, 1), format: 'pdf', into: 'archive', pictures: {} });
  const [pdf, docx] = [await timed('pdf'), await timed('docx')];
  report({
    name: 'sheets.pdf',
    value: pdf.took,
    unit: 'ms for 100 sheets of two pages',
    baseline: docx.took,
    ratio: pdf.took / docx.took,
    told: pdf.told,
    archiveKB: Math.round(pdf.bytes / 1_000),
  });
}
