import { constants, deflateRawSync } from 'node:zlib';
import { strToU8, type Zippable, zipSync } from 'fflate';

const docx = (body: string, more: Zippable = {}): Uint8Array =>
  zipSync({ 'word/document.xml': strToU8(`<w:document xmlns:w="w"><w:body>${body}</w:body></w:document>`), ...more });
const xlsx = (rows: string, after = '', more: Zippable = {}): Uint8Array =>
  zipSync({
    'xl/workbook.xml': strToU8('<workbook><sheets><sheet/></sheets></workbook>'),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet><sheetData>${rows}</sheetData>${after}</worksheet>`),
    ...more,
  });
const row = '<row><c t="str"><v>question</v></c><c t="str"><v>answer</v></c></row>';
const entities = '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>';

/** A PDF whose only stream of objects unpacks to so many megabytes. */
function pdfThatUnpacksTo(megabytes: number): Uint8Array {
  const one = deflateRawSync(Buffer.alloc(1_048_576, 32), { finishFlush: constants.Z_FULL_FLUSH });
  const packed = Buffer.concat([
    Buffer.from([0x78, 0x9c]),
    ...Array.from({ length: megabytes }, () => one),
    Buffer.from([3, 0, 0, 0, 0, 0]),
  ]);
  const head = `%PDF-1.7\n1 0 obj\n<< /Type /ObjStm /N 1 /First 4 /Filter /FlateDecode /Length ${packed.length} >>\nstream\n`;
  return Buffer.concat([
    Buffer.from(head),
    packed,
    Buffer.from('\nendstream\nendobj\ntrailer\n<< /Root 1 0 R >>\n%%EOF'),
  ]);
}

/** Files made to stop or to fill a server that reads them without limits, by what they do. All are small. */
export const hostileFiles: Record<string, () => Uint8Array> = {
  'merged cells and validations over a whole sheet': () =>
    xlsx(
      row,
      '<mergeCells><mergeCell ref="A1:XFD1048576"/></mergeCells><dataValidations><dataValidation sqref="A1:XFD1048576"/></dataValidations><conditionalFormatting sqref="A1:XFD1048576"/>',
    ),
  'a million rows': () => xlsx('<row/>'.repeat(1_000_000)),
  'cells far away': () => xlsx(`${row}<row r="20000"><c r="XFD20000"><v>1</v></c></row>`),
  'one long text in every cell': () =>
    xlsx(`<row>${'<c t="s"><v>0</v></c>'.repeat(100)}</row>`.repeat(5_000), '', {
      'xl/sharedStrings.xml': strToU8(`<sst><si><t>${'x'.repeat(150_000)}</t></si></sst>`),
    }),
  'a million empty paragraphs': () => docx('<w:p/>'.repeat(1_000_000)),
  'four million empty paragraphs': () => docx('<w:p/>'.repeat(4_000_000)),
  'tables within tables': () => docx('<w:tbl>'.repeat(200_000)),
  'text that unpacks to thirty megabytes': () => docx(`<w:p><w:r><w:t>${'x'.repeat(31_000_000)}</w:t></w:r></w:p>`),
  'entities of its own': () =>
    zipSync({ 'word/document.xml': strToU8(`${entities}<w:document><w:body>&b;</w:body></w:document>`) }),
  'entities of a sheet': () =>
    zipSync({
      'xl/workbook.xml': strToU8(`${entities}<workbook/>`),
      'xl/worksheets/sheet1.xml': strToU8('<worksheet/>'),
    }),
  'ten thousand parts': () =>
    zipSync(Object.fromEntries(Array.from({ length: 10_000 }, (_, i) => [`word/x${i}.xml`, new Uint8Array()]))),
  // A reader of the directory at the end sees the harmless archive only; one that goes through the bytes sees both.
  'two archives of which one is named': () => {
    const bomb = docx('<w:p/>'.repeat(3_000_000));
    return Buffer.concat([bomb.subarray(0, bomb.lastIndexOf(0x01)), xlsx(row)]);
  },
  'names that climb': () =>
    zipSync({
      '../../../../tmp/abcd-efgh climbed.txt': strToU8('x'),
      '/etc/abcd-efgh.txt': strToU8('x'),
      'marks.csv': strToU8('Answer,Points\nabcd-efgh,1'),
    }),
  'a document cut in half': () => {
    const whole = docx('<w:p/>'.repeat(1_000));
    return whole.subarray(0, whole.length / 2);
  },
  'a PDF that unpacks to two gigabytes': () => pdfThatUnpacksTo(2_000),
  'a PDF of nested arrays': () => Buffer.from(`%PDF-1.7\n1 0 obj\n${'['.repeat(2_000_000)}\nendobj\n%%EOF`),
  'a line of half a million letters and brackets': () =>
    Buffer.from(`1. x\na) y\n*b) z\nAnswer: ${'a( '.repeat(170_000)}!`),
  'half a million spaces before every sign': () =>
    Buffer.from(`1. x${' '.repeat(500_000)};\nAnswer: ${'\u2003'.repeat(250_000)}|;${'\u00a0'.repeat(250_000)}.`),
  'half a million quotation marks': () => Buffer.from(`question;answer\n${'"'.repeat(500_001)}`),
};
