import { zipSync } from 'fflate';
import type { SheetBlock, SheetDocument } from '../core/gradebook/sheetDocument';
import type { PrintedPicture, PrintOrder } from '../core/print/printOrder';
import { type PrintBlock, type PrintDocument, words } from './printNodes';
import { richNodes } from './richNodes';
import { sheetDocx } from './sheetDocx';
import { typesetFiles, typesetPdf } from './typesetPdf';

type Pictures = Record<string, PrintedPicture>;

function blockNodes(block: SheetBlock, pictures: Pictures): PrintBlock {
  switch (block.kind) {
    case 'heading':
      return { k: 'h', level: 2, s: block.text };
    case 'text':
      return { k: 'stack', above: 5, c: [words(block.text, block.quiet ? { quiet: true, size: 10 } : {})] };
    case 'result':
      return {
        k: 'stack',
        above: 8,
        c: [
          {
            k: 'p',
            size: 22,
            c: [
              { k: 't', s: block.text, marks: ['bold'] },
              { k: 'space', width: 14 },
              { k: 't', s: block.note },
            ],
          },
        ],
      };
    case 'table':
      return {
        k: 'table',
        // Columns of numbers are narrow; the words beside them share what is left.
        widths: block.head.map((_, i) => (block.right.includes(i) ? 62 : 0)),
        head: block.head.map((cell) => [words(cell, { sans: true, size: 10, strong: true })]),
        rows: block.rows.map((cells) => cells.map((cell) => [words(cell, { sans: true, size: 10 })])),
        right: block.right,
        grid: false,
      };
    case 'question':
      return questionNodes(block, pictures);
    case 'lines':
      return {
        k: 'stack',
        above: 14,
        keep: true,
        c: [words(block.label, { strong: true }), { k: 'lines', count: block.count, height: 22 }],
      };
  }
}

function questionNodes(block: Extract<SheetBlock, { kind: 'question' }>, pictures: Pictures): PrintBlock {
  const said = (text: string): PrintBlock => words(text, { size: 10.5 });
  return {
    k: 'stack',
    above: 10,
    edge: 'above',
    c: [
      {
        k: 'columns',
        widths: [24, 0, 92],
        c: [
          [words(block.number, { strong: true })],
          richNodes(block.stem, { pictures }, { size: 10.5 }),
          [
            words(block.points, { sans: true, size: 9.5, align: 'right' }),
            words(block.verdict, { sans: true, size: 9.5, quiet: true, align: 'right' }),
          ],
        ],
      },
      {
        k: 'stack',
        left: 24,
        above: 3,
        c: [
          said(`Your answer: ${block.answer || 'none'}`),
          ...(block.why === null ? [] : [said(block.why)]),
          ...(block.right === null ? [] : [said(`Right: ${block.right}`)]),
          ...(block.solution ? richNodes(block.solution, { pictures }, { size: 10 }) : []),
          ...(block.comment === ''
            ? []
            : [{ k: 'stack' as const, above: 3, edge: 'bar' as const, c: [said(block.comment)] }]),
        ],
      },
    ],
  };
}

/** A sheet as what stands on its pages. */
const sheetDocument = (sheet: SheetDocument, pictures: Pictures): PrintDocument => ({
  title: sheet.title,
  foot: sheet.foot,
  c: [
    {
      k: 'stack',
      edge: 'below',
      c: [{ k: 'h', level: 1, s: sheet.title }, words(sheet.note, { sans: true, size: 10, quiet: true })],
    },
    ...sheet.blocks.map((block) => blockNodes(block, pictures)),
  ],
});

/**
 * Prints sheets: each into a file of its own name, all in one archive; or one behind the other into one PDF, or of
 * many into several, each beginning on a page of its own with its own page numbers.
 *
 * @param onProgress told how many sheets are printed
 */
export async function printSheets(
  { sheets, format, into, pictures }: Extract<PrintOrder, { sheets: unknown }>,
  onProgress: (done: number) => void = () => {},
): Promise<Uint8Array> {
  if (into === 'one-pdf')
    return typesetFiles(
      sheets.map((sheet) => sheetDocument(sheet, pictures)),
      pictures,
      'sheets',
      onProgress,
    );
  const printed: Uint8Array[] = [];
  for (const sheet of sheets) {
    printed.push(format === 'pdf' ? typesetPdf([sheetDocument(sheet, pictures)], pictures) : await sheetDocx(sheet));
    onProgress(printed.length);
  }
  // PDF and DOCX are packed already: they are only laid side by side.
  return zipSync(Object.fromEntries(sheets.map((sheet, i) => [sheet.fileName, printed[i] as Uint8Array])), {
    level: 0,
  });
}
