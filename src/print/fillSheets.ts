import { createCanvas } from '@napi-rs/canvas';
import { zipSync } from 'fflate';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import sharp from 'sharp';
import { type GreyPicture, greyOf } from '../core/answerSheet/greyPicture';
import type { AnswerSheetOrder, FillOrder } from '../core/answerSheet/sheetOrder';
import type { SheetPlan } from '../core/answerSheet/sheetRow';
import {
  dotsPerMillimetre,
  fillIn,
  type Grade,
  markPage,
  type RowTruth,
  takePicture,
} from '../core/answerSheet/standIn';
import { quickRandom } from '../core/base/random';
import { type LaidSheet, laySheets, printAnswerSheets } from './printAnswerSheets';
import { typesetData } from './typesetPdf';

/** What is true of a picture: whose sheet it is, which page, and what was filled in. */
type PictureTruth = { file: string; name: string | null; number: string; copy: number; page: number; rows: RowTruth[] };

const quality: Readonly<Record<Grade, number>> = { copier: 85, 'worn-copier': 72, phone: 72 };

/**
 * The stand-in for printer and scanner: prints the sheets, fills each in as somebody with a pencil would, and gives a
 * picture of each page, all of them as one PDF too, and the truth as JSON.
 *
 * @param onProgress told how many sheets are done
 */
export async function fillSheets(
  { order, grade, seed, numbers }: FillOrder,
  onProgress: (done: number) => void = () => {},
): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = {};
  const truths: PictureTruth[] = [];
  for await (const { sheet, blank } of printedSheets(order)) {
    const random = quickRandom(`${seed}/${sheet.layout}/${sheet.copy}/${sheet.page}`, grade);
    const number = sheet.name ? '' : (numbers[(sheet.copy - 1) % Math.max(1, numbers.length)] ?? '');
    const { marked, truth } = fillIn(order.layouts[sheet.layout] as SheetPlan, sheet.laidOut, random, number);
    const { picture } = takePicture(markPage(blank, sheet.laidOut, marked, random), sheet.laidOut, grade, random);
    const { width, height, data } = picture;
    const file = `${String(truths.length + 1).padStart(3, '0')}.jpg`;
    files[file] = await sharp(data, { raw: { width, height, channels: 1 } })
      .jpeg({ quality: quality[grade] })
      .toBuffer();
    truths.push({ file, name: sheet.name || null, number, copy: sheet.copy, page: sheet.page, rows: truth });
    onProgress(new Set(truths.map((one) => `${one.copy}/${one.name}`)).size);
  }
  const names = Object.keys(files).map((file) => file.replace('.jpg', ''));
  const scanned = Object.fromEntries(names.map((name) => [name, files[`${name}.jpg`] as Uint8Array]));
  files['scan.pdf'] = typesetData({ title: order.title, scans: names }, {}, scanned);
  files['truth.json'] = new TextEncoder().encode(JSON.stringify(truths, null, 1));
  return zipSync(files, { level: 0 });
}

/** Answer sheets as they come out of the printer, one after the other, each as pixels. */
export async function* printedSheets(
  order: AnswerSheetOrder,
): AsyncGenerator<{ sheet: LaidSheet; blank: GreyPicture }> {
  const { papers } = laySheets(order);
  const opening = getDocument({ data: printAnswerSheets(order), verbosity: 0 });
  try {
    const pdf = await opening.promise;
    for (const [i, own] of papers.entries()) {
      if (own.length === 0) continue;
      const paper = await drawn(pdf, i + 1);
      for (const sheet of own) yield { sheet, blank: cut(paper, sheet) };
    }
  } finally {
    await opening.destroy();
  }
}

type Pdf = Awaited<ReturnType<typeof getDocument>['promise']>;

/** A page of the PDF as pixels. */
async function drawn(pdf: Pdf, n: number): Promise<GreyPicture> {
  const page = await pdf.getPage(n);
  const viewport = page.getViewport({ scale: (dotsPerMillimetre * 25.4) / 72 });
  const canvas = createCanvas(viewport.width, viewport.height);
  const canvasContext = canvas.getContext('2d');
  await page.render({ canvasContext, viewport, canvas } as unknown as Parameters<typeof page.render>[0]).promise;
  page.cleanup();
  return greyOf(canvasContext.getImageData(0, 0, canvas.width, canvas.height));
}

/** The part of a page on which one sheet stands. */
function cut({ width, data }: GreyPicture, { x, y, laidOut }: LaidSheet): GreyPicture {
  const [left, top] = [Math.round(x * dotsPerMillimetre), Math.round(y * dotsPerMillimetre)];
  const own = {
    width: Math.round(laidOut.width * dotsPerMillimetre),
    height: Math.round(laidOut.height * dotsPerMillimetre),
  };
  const grey = new Uint8Array(own.width * own.height);
  for (let row = 0; row < own.height; row++) {
    const from = (row + top) * width + left;
    grey.set(data.subarray(from, from + own.width), row * own.width);
  }
  return { ...own, data: grey };
}
