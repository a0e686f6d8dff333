import {
  AlignmentType,
  BorderStyle,
  Document,
  Footer,
  HeadingLevel,
  Packer,
  Paragraph,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
} from 'docx';
import { withMathInLine } from '../core/base/mathLine';
import { richText } from '../core/base/rich';
import type { SheetBlock, SheetDocument } from '../core/gradebook/sheetDocument';

const grey = '566070';

const plain = (text: string, more: { bold?: boolean; color?: string; size?: number } = {}) =>
  text
    .split('\n')
    .map((line) => new Paragraph({ spacing: { after: 80 }, children: [new TextRun({ text: line, ...more })] }));

function blockOf(block: SheetBlock): (Paragraph | Table)[] {
  switch (block.kind) {
    case 'heading':
      return [
        new Paragraph({ text: block.text, heading: HeadingLevel.HEADING_2, spacing: { before: 240, after: 80 } }),
      ];
    case 'text':
      return plain(block.text, block.quiet ? { color: grey } : {});
    case 'result':
      return [
        new Paragraph({
          spacing: { before: 120, after: 120 },
          children: [
            new TextRun({ text: block.text, bold: true, size: 40 }),
            new TextRun({ text: `   ${block.note}`, size: 28 }),
          ],
        }),
      ];
    case 'table':
      return [tableOf(block)];
    case 'question':
      return [
        new Paragraph({
          spacing: { before: 200, after: 60 },
          border: { top: { style: BorderStyle.SINGLE, size: 4, color: '857C6B' } },
          children: [
            new TextRun({ text: `${block.number}  `, bold: true }),
            new TextRun({ text: richText(withMathInLine(block.stem)) }),
            new TextRun({ text: `   ${block.points}, ${block.verdict}`, color: grey }),
          ],
        }),
        ...plain(`Your answer: ${block.answer || 'none'}`),
        ...(block.why === null ? [] : plain(block.why)),
        ...(block.right === null ? [] : plain(`Right: ${block.right}`)),
        ...(block.solution ? plain(richText(withMathInLine(block.solution)), { color: grey }) : []),
        ...(block.comment ? plain(`“${block.comment}”`) : []),
      ];
    case 'lines':
      return [
        new Paragraph({ text: block.label, heading: HeadingLevel.HEADING_2, spacing: { before: 240 } }),
        ...Array.from(
          { length: block.count },
          () =>
            new Paragraph({
              spacing: { before: 260 },
              border: { bottom: { style: BorderStyle.SINGLE, size: 4, color: '857C6B' } },
            }),
        ),
      ];
  }
}

function tableOf({ head, rows, right }: Extract<SheetBlock, { kind: 'table' }>): Table {
  const row = (cells: string[], bold: boolean) =>
    new TableRow({
      tableHeader: bold,
      children: cells.map(
        (text, i) =>
          new TableCell({
            children: [
              new Paragraph({
                alignment: right.includes(i) ? AlignmentType.RIGHT : AlignmentType.LEFT,
                children: [new TextRun({ text, bold })],
              }),
            ],
          }),
      ),
    });
  return new Table({
    width: { size: 100, type: WidthType.PERCENTAGE },
    rows: [row(head, true), ...rows.map((cells) => row(cells, false))],
  });
}

/** A sheet as a DOCX document, which can be written into. */
export async function sheetDocx(sheet: SheetDocument): Promise<Uint8Array> {
  const document = new Document({
    title: sheet.title,
    creator: 'Wuzzen',
    sections: [
      {
        footers: {
          default: new Footer({
            children: [new Paragraph({ children: [new TextRun({ text: sheet.foot, color: grey })] })],
          }),
        },
        children: [
          new Paragraph({ text: sheet.title, heading: HeadingLevel.HEADING_1 }),
          ...plain(sheet.note, { color: grey }),
          ...sheet.blocks.flatMap(blockOf),
        ],
      },
    ],
  });
  return new Uint8Array(await Packer.toBuffer(document));
}
