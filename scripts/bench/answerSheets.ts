import { unzipSync } from 'fflate';
import sharp from 'sharp';
import type { GreyPicture } from '../../src/core/answerSheet/greyPicture';
import { judgePage } from '../../src/core/answerSheet/judgeMarks';
import { readCode } from '../../src/core/answerSheet/readCode';
import { findSheets, readMarks } from '../../src/core/answerSheet/readSheet';
import { readSheetCode } from '../../src/core/answerSheet/sheetCode';
import { layOutSheet, type SheetPage, studentRow } from '../../src/core/answerSheet/sheetLayout';
import type { AnswerSheetOrder } from '../../src/core/answerSheet/sheetOrder';
import type { SheetPlan } from '../../src/core/answerSheet/sheetRow';
import { fillIn, type Grade, grades, markPage, type RowTruth, takePicture } from '../../src/core/answerSheet/standIn';
import { quickRandom } from '../../src/core/base/random';
import { type Rich, richFromText } from '../../src/core/base/rich';
import type { PrintedPaper } from '../../src/core/exam/printedPaper';
import { printedSheets } from '../../src/print/fillSheets';
import { printAnswerSheets } from '../../src/print/printAnswerSheets';
import type { PrintDocument } from '../../src/print/printNodes';
import { printPapers } from '../../src/print/printPapers';
import { readPdf } from '../../src/print/testing/readPdf';
import { typesetPdf } from '../../src/print/typesetPdf';
import { report } from './measure';

/** 60 rows a page: four and five choices, several right, and the student's number. */
const plan: SheetPlan = {
  version: 1,
  size: 100,
  perPage: 1,
  studentColumns: 6,
  rows: Array.from({ length: 60 }, (_, i) => ({
    kind: 'choice',
    label: String(i + 1),
    options: [...(i % 3 ? 'ABCD' : 'ABCDE')],
    several: i % 10 === 9,
  })),
};
const page = layOutSheet(plan)[0] as SheetPage;

/** As many sheets as asked for; a single one is a blank. */
const order = (count: number): AnswerSheetOrder => ({
  installation: 'BENCH',
  title: 'Theory exam, Weekday',
  layouts: { KAYQUTA: plan },
  sheets: Array.from({ length: count }, (_, i) => ({
    layout: 'KAYQUTA',
    copy: i + 1,
    name: count === 1 ? null : `Student Number ${i + 1}`,
    note: 'Weekday',
  })),
  bothSides: false,
});

/** The printed sheet as pixels: the real PDF, drawn. */
async function printedPage(): Promise<GreyPicture> {
  for await (const { blank } of printedSheets(order(1))) return blank;
  throw new Error('Nothing was printed.');
}

type Simulated = { file: Buffer; truth: RowTruth[]; number: string };

/** A page as somebody filled it in and a copier or a phone took it, as the file that comes from there. */
async function simulated(blank: GreyPicture, grade: Grade, seed: string): Promise<Simulated> {
  const random = quickRandom(seed, grade);
  const number = String(100_000 + random.below(900_000));
  const { marked, truth } = fillIn(plan, page, random, number);
  const { picture } = takePicture(markPage(blank, page, marked, random), page, grade, random);
  const { width, height, data } = picture;
  const file = await sharp(data, { raw: { width, height, channels: 1 } })
    .jpeg({ quality: grade === 'copier' ? 85 : 72 })
    .toBuffer();
  return { file, truth, number };
}

async function decoded(file: Buffer): Promise<GreyPicture> {
  const { data, info } = await sharp(file).greyscale().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data };
}

/** `--pages=N`: how many pages instead of the usual number. */
const counted = (usual: number): number =>
  Number(process.argv.find((word) => word.startsWith('--pages='))?.slice(8) ?? usual);

/** sheet.read: pages per second from a file's bytes to marks, 60 rows a page. Baseline: decoding the same pages only. */
export async function sheetRead(): Promise<void> {
  sharp.concurrency(1);
  const blank = await printedPage();
  const files: Buffer[] = [];
  for (let i = 0; i < counted(60); i++) files.push((await simulated(blank, grades[i % 3] as Grade, `read/${i}`)).file);
  const timed = async (each: (picture: GreyPicture) => void) => {
    const begun = performance.now();
    for (const file of files) each(await decoded(file));
    return (performance.now() - begun) / files.length;
  };
  const read = (picture: GreyPicture) => {
    for (const found of findSheets(picture, readCode, () => page)) {
      const marks = readMarks(picture, found, page);
      if (marks.kind === 'read') judgePage(plan, page, marks.darkness);
    }
  };
  await timed(read);
  const times = { read: 0, bare: 0 };
  for (let i = 0; i < 3; i++) {
    times.bare += await timed(() => {});
    times.read += await timed(read);
  }
  report({
    name: 'sheet.read',
    value: 3_000 / times.read,
    unit: 'pages a second, one thread',
    baseline: 3_000 / times.bare,
    ratio: times.read / times.bare,
    msAPage: Math.round(times.read / 3),
  });
}

/**
 * sheet.accuracy: marks on simulated pages that were not used for choosing the thresholds, a third by each grade. value:
 * rows read wrongly without being doubtful. Baseline: rows. `doubtful` is the share of rows in truth clear that are
 * doubtful, in percent, by grade; `aside` counts pages that could not be read.
 */
export async function sheetAccuracy(): Promise<void> {
  const blank = await printedPage();
  const seed = process.argv.find((word) => word.startsWith('--seed='))?.slice(7) ?? 'judged';
  let [wrong, rows, marks, wrongStudent] = [0, 0, 0, 0];
  const doubtful: Record<string, number> = {};
  const aside: Record<string, number> = {};
  const shades: Record<string, string> = {};
  const pages = counted(1_000);
  for (const [g, grade] of grades.entries()) {
    let [clear, doubted, unread] = [0, 0, 0];
    const light: number[] = [];
    const dark: number[] = [];
    for (let i = g; i < pages; i += grades.length) {
      const { file, truth, number } = await simulated(blank, grade, `${seed}/${i}`);
      const picture = await decoded(file);
      const [found, ...more] = findSheets(picture, readCode, () => page);
      const read = found && more.length === 0 && readSheetCode(found.text) ? readMarks(picture, found, page) : null;
      if (read?.kind !== 'read') {
        unread += 1;
        continue;
      }
      marks += page.boxes.length;
      const readings = new Map(judgePage(plan, page, read.darkness).map((one) => [one.row, one]));
      for (const one of truth) {
        const reading = readings.get(one.row);
        rows += 1;
        if (one.clear) clear += 1;
        if (reading?.doubt) {
          if (one.clear) doubted += 1;
        } else if (!one.clear || reading?.filled.join('|') !== one.filled.join('|')) {
          wrong += 1;
          if (one.row === studentRow && reading?.filled.join('') !== number) wrongStudent += 1;
        }
        if (one.clear)
          for (const [b, box] of page.boxes.entries())
            if (box.row === one.row) {
              const signs = one.row === studentRow ? [...'0123456789'] : [...'ABCDE'];
              const meant =
                one.row === studentRow
                  ? one.filled[box.column]
                  : one.filled.includes(signs[box.option] ?? '')
                    ? signs[box.option]
                    : null;
              (meant === signs[box.option] ? dark : light).push(read.darkness[b] as number);
            }
      }
    }
    light.sort((a, b) => b - a);
    dark.sort((a, b) => a - b);
    const lot = (all: number[], part: number) => (all[Math.floor(all.length * part)] ?? 0).toFixed(3);
    shades[grade] =
      `empty ${lot(light, 0)} ${lot(light, 0.0001)} ${lot(light, 0.001)}, filled ${lot(dark, 0)} ${lot(dark, 0.0001)} ${lot(dark, 0.001)}`;
    doubtful[grade] = Number(((100 * doubted) / Math.max(1, clear)).toFixed(3));
    aside[grade] = unread;
  }
  report({
    name: 'sheet.accuracy',
    value: wrong,
    unit: `rows wrong and not doubtful, on ${pages} pages`,
    baseline: rows,
    ratio: wrong / Math.max(1, rows),
    marks,
    wrongStudent,
    doubtful,
    aside,
    shades,
  });
}

const printedAtOnce = 300;
const formulas = [
  '\\frac{v^2 - u^2}{2 a s} = \\sqrt{1 + \\left(\\frac{h}{d}\\right)^2}',
  'd = 2.08 \\left(\\sqrt{h_1} + \\sqrt{h_2}\\right)',
  '\\int_0^{T} \\sin^2(\\omega t)\\, dt = \\frac{T}{2}',
  '\\begin{pmatrix} \\cos\\theta & -\\sin\\theta \\\\ \\sin\\theta & \\cos\\theta \\end{pmatrix}',
];

/** A paper of its student: questions in an order and with numbers of its own, with three formulas each. */
function drawnPaper(student: number): PrintedPaper {
  const math = (n: number): Rich => ({
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [
          { type: 'text', text: `With ${student + n} m, which of these holds? ` },
          { type: 'math', attrs: { tex: `${formulas[n % formulas.length]} + ${student % 7}`, display: false } },
        ],
      },
    ],
  });
  return {
    title: 'Theory exam',
    student: `Student Number ${student}`,
    code: `paper ${student}`,
    points: '20 points',
    instructions: richFromText('Answer all questions.'),
    withKey: false,
    slots: Array.from({ length: 28 }, (_, i) => {
      const n = (i * 7 + student) % 97;
      return {
        number: i + 1,
        heading: null,
        choose: null,
        points: '1 point',
        required: false,
        passage: null,
        key: null,
        view: {
          type: 'single-choice',
          stem: math(n),
          choices: ['a', 'b', 'c', 'd'].map((key, at) => ({
            key,
            content: at < 2 ? math(n + at + 1) : richFromText(`None of ${n} and ${at}`),
          })),
        },
      };
    }),
  };
}

/**
 * sheet.print: 300 answer sheets as one PDF, made out; and 300 drawn papers of four pages with formulas. Baseline: the same
 * number of pages with a line each.
 */
export async function sheetPrint(): Promise<void> {
  const timed = async (run: () => unknown) => {
    const begun = performance.now();
    const made = await run();
    return { took: performance.now() - begun, made };
  };
  const bare = (count: number): PrintDocument[] =>
    Array.from({ length: count }, (_, i) => ({
      title: `Page ${i + 1}`,
      foot: '',
      c: [{ k: 'p', c: [{ k: 't', s: `Page ${i + 1}` }] }],
    }));
  const drawn = (count: number) => ({ papers: Array.from({ length: count }, (_, i) => drawnPaper(i)), pictures: {} });
  printAnswerSheets(order(2));
  await printPapers(drawn(2));
  const sheets = await timed(() => printAnswerSheets(order(printedAtOnce)));
  const papers = await timed(() => printPapers(drawn(printedAtOnce)));
  const files = await Promise.all(Object.values(unzipSync(papers.made as Uint8Array)).map(readPdf));
  const drawnPages = files.reduce((sum, file) => sum + file.pages.length, 0);
  for (const [name, took, count] of [
    ['answer sheets', sheets.took, printedAtOnce],
    ['drawn papers with formulas', papers.took, drawnPages],
  ] as const) {
    const empty = await timed(() => typesetPdf(bare(count), {}));
    report({
      name: 'sheet.print',
      value: took,
      unit: `ms for ${printedAtOnce} ${name}`,
      baseline: empty.took,
      ratio: took / empty.took,
      pages: count,
      msAPage: Math.round((10 * took) / count) / 10,
    });
  }
}
