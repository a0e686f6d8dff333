import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { judgePage } from '@/core/answerSheet/judgeMarks';
import { layOutSheet, type SheetPage } from '@/core/answerSheet/sheetLayout';
import type { SheetPlan } from '@/core/answerSheet/sheetRow';
import { type Packing, packedPdf } from '../testing/packedPdf';
import { must } from '../testing/school';
import { readHere, type SheetOnPage } from './readings';

/** What the sheet of the picture was printed with; B, A, A, D, D and B are filled in on it. */
const plan: SheetPlan = {
  version: 1,
  size: 100,
  perPage: 4,
  studentColumns: 0,
  rows: ['1', '2', '3', '4', '5', '6'].map((label) => ({
    kind: 'choice',
    label,
    options: ['A', 'B', 'C', 'D'],
    several: false,
  })),
};
const jpeg2000 = new Uint8Array(readFileSync(join(import.meta.dirname, '../testing/quarterSheet.jp2')));
const size = { width: 640, height: 879 };

/** The sheet on a PDF of one page. */
async function sheetIn(pdf: Uint8Array) {
  const found = await readHere({ name: 'sheetsOnPage', sent: [pdf, 1, [{ id: 'KAYQUTA', plan }]] });
  return (must(found) as SheetOnPage[])[0];
}

/** The letters that are read in a PDF whose picture is packed so. */
async function lettersIn(pdf: Uint8Array): Promise<string> {
  const sheet = await sheetIn(pdf);
  const { darkness } = sheet?.found ?? {};
  if (!darkness) return sheet?.found.problem ?? 'nothing';
  const page = layOutSheet(plan)[0] as SheetPage;
  const rows = judgePage(
    plan,
    page,
    darkness.map((percent) => percent / 100),
  );
  return rows.map((row) => (row.doubt ? '?' : row.filled.join(''))).join(' ');
}

describe('a sheet in a PDF is read however its picture is packed', () => {
  it('as JPEG 2000 (ITU-T T.800)', async () => {
    expect(await lettersIn(await packedPdf(jpeg2000, 'JPXDecode', size))).toBe('B A A D D B');
  });

  it.each<Packing>(['DCTDecode', 'CCITTFaxDecode', 'JBIG2Decode'])('as %s', async (packing) => {
    // The picture itself comes out of the packing that has a decoder of its own.
    const plain = await pictureOf(await packedPdf(jpeg2000, 'JPXDecode', size));
    expect(await lettersIn(await packedPdf(plain, packing))).toBe('B A A D D B');
  });
});

/** The picture that is kept of what lies on the page. */
async function pictureOf(pdf: Uint8Array): Promise<Uint8Array> {
  const sheet = await sheetIn(pdf);
  return new Uint8Array(
    await sharp(sheet?.picture)
      .extend({ top: 20, bottom: 20, left: 20, right: 20, background: '#fff' })
      .png()
      .toBuffer(),
  );
}
