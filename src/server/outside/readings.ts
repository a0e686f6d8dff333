import { open } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileTypeFromBuffer, fileTypeFromFile } from 'file-type';
import { type GreyPicture, greyOf } from '@/core/answerSheet/greyPicture';
import type { FoundOnPage } from '@/core/answerSheet/pageParcel';
import { knownLayouts, readPage } from '@/core/answerSheet/readPage';
import type { SheetPlan } from '@/core/answerSheet/sheetRow';
import type { Brought } from '@/core/bank/bringIn/brought';
import { type Line, linesOf } from '@/core/bank/bringIn/line';
import type { SaidRole, Taught } from '@/core/bank/bringIn/lineForms';
import { type Reading as Mended, readDocument, taughtBy } from '@/core/bank/bringIn/readDocument';
import { type KnownTable, knownTable, readTable, type TableField } from '@/core/bank/bringIn/readTable';
import { readCsv } from '@/core/base/csv';
import { pdfInPieces } from '@/core/base/pdfRanges';
import { ok, type Result, refused } from '@/core/base/result';
import { decodedText, type Encoding } from './decodedText';
import { readDocx } from './readDocx';
import { csvTable, isPacked, readSheet, xlsxTable } from './readSheet';
import { readXlsx, type SheetLimit } from './readXlsx';
import { unpack } from './unpack';

/** What was pasted or chosen, read: lines, or a table. What its letters were taken for is told where it was a guess. */
export type ReadQuestions = (({ lines: Line[] } & Mended) | { table: KnownTable }) & { encoding?: Encoding };

/** A file of an archive; of a word processor document besides, the text with all its form. */
export type Unpacked = { path: string; content: Uint8Array; words: string | null };

/** A sheet that was found on a page, with the picture that is kept of it. */
export type SheetOnPage = { found: Omit<FoundOnPage, 'source'>; picture: Uint8Array };

/** The tables and the other files of an upload of marks. */
export type ReadMarks = { tables: string[][][]; files: Unpacked[]; isArchive: boolean };

/**
 * All that is read of what comes from outside. Each of them can be asked for in a thread of its own, so that it takes bytes
 * and plain values, answers with plain values, and knows neither the database nor who asks.
 */
export const readings = {
  /** Questions out of a file. What it is, its content decides; its letters too, unless they are named. */
  questionsInFile(file: Uint8Array, taught: Taught, encoding: Encoding | null): Result<ReadQuestions> {
    if (isPacked(file)) {
      const document = readDocx(file);
      if (document.ok) return ok(mended(document.value, taught));
      const table = readXlsx(file);
      if (table.ok) {
        const known = knownTable(table.value);
        return known ? ok({ table: known }) : noTable;
      }
      // Of the two readings the one that recognised the document tells what is wrong with it.
      const known = [document, table].find((one) => !one.ok && one.problems[0]?.code !== 'other-kind');
      return known && !known.ok
        ? known
        : refused('bad-input', 'This is neither a document (.docx) nor a spreadsheet (.xlsx).');
    }
    const decoded = decodedText(file, encoding);
    if (!decoded)
      return refused('bad-input', 'This is none of the files that can be read: DOCX, XLSX, CSV or plain text.');
    const guess = decoded.isGuess ? { encoding: decoded.encoding } : {};
    const table = knownTable(readCsv(decoded.text));
    return ok({ ...(table ? { table } : mended(linesOf(decoded.text), taught)), ...guess });
  },

  /** Questions out of pasted text, which may be a table divided by tabs, or paragraphs. */
  questionsInLines(
    source: string | readonly Line[],
    said: Readonly<Record<number, SaidRole>>,
    taught: Taught,
  ): Result<ReadQuestions & { taught: Taught }> {
    const lines = typeof source === 'string' ? linesOf(source) : [...source];
    const table = typeof source === 'string' && source.includes('\t') ? knownTable(readCsv(source)) : null;
    if (table) return ok({ table, taught });
    const learnt = taughtBy(lines, said, taught);
    return ok({ ...mended(lines, learnt, said), taught: learnt });
  },

  /** Questions out of a table whose columns are known. */
  questionsInTable: (rows: string[][], fields: TableField[], hasHeadings: boolean): Result<Brought[]> =>
    ok(readTable(rows, fields, hasHeadings)),

  /** The first sheet of a spreadsheet, or a CSV file. */
  sheet: readSheet,

  /** An upload of marks: a sheet alone, or an archive with one and with annotated files. */
  marks(file: Uint8Array, limit: SheetLimit): Result<ReadMarks> {
    if (file.length === 0) return refused('bad-input', 'The file is empty.');
    const alone = (table: Result<string[][]>): Result<ReadMarks> =>
      table.ok ? ok({ tables: [table.value], files: [], isArchive: false }) : table;
    if (!isPacked(file)) return alone(csvTable(file));
    const parts = unpack(file, () => true);
    if (!parts.ok) return parts;
    if (parts.value.has('[Content_Types].xml')) return alone(xlsxTable(file, limit));
    const tables: string[][][] = [];
    const files: Unpacked[] = [];
    for (const [path, content] of parts.value) {
      if (!/(^|\/)marks[^/]*\.(xlsx|csv)$/i.test(path)) {
        files.push({ path, content, words: path.endsWith('.docx') ? wordsOf(content) : null });
        continue;
      }
      const table = /\.csv$/i.test(path) ? csvTable(content) : xlsxTable(content, limit);
      if (!table.ok) return table;
      tables.push(table.value);
    }
    return ok({ tables, files, isArchive: true });
  },

  /** What a file is, by its content, as a media type; null where that cannot be told. */
  async mediaType(file: Uint8Array | string): Promise<Result<string | null>> {
    return ok((await typeOf(file)) ?? null);
  },

  /**
   * The sheets on a page of a PDF, or on a picture, as the reader in a browser would find them, each with the picture that
   * is kept of it.
   *
   * @param file its bytes, or where it lies: of a PDF only what the page needs is read then
   * @param n which page, from 1; 0 for a picture
   */
  async sheetsOnPage(
    file: Uint8Array | string,
    n: number,
    layouts: { id: string; plan: SheetPlan }[],
  ): Promise<Result<SheetOnPage[]>> {
    try {
      const { default: sharp } = await import('sharp');
      const picture = n > 0 ? await pixelsOfPage(file, n) : await pixelsOfPicture(file);
      const found = readPage(picture, knownLayouts(layouts));
      return ok(
        await Promise.all(
          found.map(async ({ found: one, kept: { width, height, data } }): Promise<SheetOnPage> => {
            const raw = sharp(data, { raw: { width, height, channels: 1 } });
            const small = one.darkness ? raw : raw.resize({ width: 1_000, height: 1_000, fit: 'inside' });
            return { found: one, picture: new Uint8Array(await small.webp({ quality: 60 }).toBuffer()) };
          }),
        ),
      );
    } catch {
      return refused('bad-input', 'This page could not be read.');
    }
  },

  /**
   * How many pages a PDF has; null where it is none that opens without a password.
   *
   * @param file its bytes, or where it lies
   */
  async pages(file: Uint8Array | string): Promise<Result<number | null>> {
    if ((await typeOf(file)) !== 'application/pdf') return ok(null);
    try {
      const opened = await openedPdf(file);
      const count = opened.pdf.numPages || null;
      await opened.done();
      return ok(count);
    } catch {
      return ok(null);
    }
  },
};

/** The media type of bytes, or of a file where it lies. */
const typeOf = async (file: Uint8Array | string): Promise<string | undefined> =>
  (typeof file === 'string' ? await fileTypeFromFile(file) : await fileTypeFromBuffer(file))?.mime;

/** Pictures are made no larger than this before sheets are looked for on them, in pixels of their longer side. */
const longestSheetPicture = 2_400;
const mostSheetPixels = 120_000_000;

/** A page of a PDF as pixels. */
async function pixelsOfPage(file: Uint8Array | string, n: number) {
  const canvas = await import('@napi-rs/canvas');
  const { pdf, done } = await openedPdf(file);
  try {
    const page = await pdf.getPage(n);
    const plain = page.getViewport({ scale: 1 });
    const viewport = page.getViewport({ scale: longestSheetPicture / Math.max(plain.width, plain.height) });
    const drawn = canvas.createCanvas(Math.ceil(viewport.width), Math.ceil(viewport.height));
    const canvasContext = drawn.getContext('2d');
    await page.render({ canvasContext, viewport, canvas: drawn } as unknown as Parameters<typeof page.render>[0])
      .promise;
    page.cleanup();
    return greyOf(canvasContext.getImageData(0, 0, drawn.width, drawn.height));
  } finally {
    await done();
  }
}

type Pdf = Awaited<ReturnType<Awaited<ReturnType<typeof pdfReader>>['getDocument']>['promise']>;
type OpenedPdf = { path: string; pdf: Pdf; uses: number; close: () => Promise<void> };

/** After so many uses a file is opened anew: what was read of it stays in memory while it is open. */
const mostUses = 20;
/** The file that was read last, still open: its pages are asked for one after the other. */
let stillOpen: OpenedPdf | null = null;

/** A PDF, to be given back when whoever asked is done with it. */
async function openedPdf(file: Uint8Array | string): Promise<{ pdf: Pdf; done: () => Promise<void> }> {
  const { getDocument, PDFDataRangeTransport } = await pdfReader();
  const quiet = { isEvalSupported: false, disableFontFace: true, verbosity: 0, wasmUrl: decoders() };
  if (typeof file !== 'string') {
    const opening = getDocument({ ...quiet, data: file.slice() });
    try {
      return { pdf: await opening.promise, done: () => opening.destroy() };
    } catch (why) {
      await opening.destroy();
      throw why;
    }
  }
  if (stillOpen?.path !== file || stillOpen.uses >= mostUses) {
    await stillOpen?.close();
    stillOpen = null;
    const handle = await open(file);
    const { size } = await handle.stat();
    const inPieces = pdfInPieces(PDFDataRangeTransport, size, async (begin, end) => {
      const { buffer, bytesRead } = await handle.read(new Uint8Array(end - begin), 0, end - begin, begin);
      return buffer.slice(0, bytesRead);
    });
    const opening = getDocument({ ...quiet, ...inPieces });
    const close = async () => {
      await opening.destroy();
      await handle.close();
    };
    try {
      stillOpen = { path: file, pdf: await opening.promise, uses: 0, close };
    } catch (why) {
      await close();
      throw why;
    }
  }
  stillOpen.uses += 1;
  return { pdf: stillOpen.pdf, done: async () => {} };
}

/** A picture as pixels in shades of grey, turned as whoever took it held the camera. */
async function pixelsOfPicture(file: Uint8Array | string): Promise<GreyPicture> {
  const { default: sharp } = await import('sharp');
  const { data, info } = await sharp(file, { limitInputPixels: mostSheetPixels })
    .rotate()
    .resize({ width: longestSheetPicture, height: longestSheetPicture, fit: 'inside', withoutEnlargement: true })
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data };
}

/**
 * The reader of PDFs, which is large and loaded only where one comes. It believes itself in a browser and runs its own worker
 * in this thread. It draws with what stands here under these names: whatever was put there first would serve everybody who
 * draws later, so that it is the real thing wherever that is installed.
 */
async function pdfReader(): Promise<typeof import('pdfjs-dist/legacy/build/pdf.mjs')> {
  const here = globalThis as Partial<Record<'DOMMatrix' | 'ImageData' | 'Path2D' | 'pdfjsWorker', unknown>>;
  const canvas = await import('@napi-rs/canvas').catch(() => null);
  for (const name of ['DOMMatrix', 'ImageData', 'Path2D'] as const) here[name] ??= canvas?.[name] ?? class {};
  here.pdfjsWorker ??= await import('pdfjs-dist/legacy/build/pdf.worker.mjs');
  return import('pdfjs-dist/legacy/build/pdf.mjs');
}

/** Where the decoders lie for pictures that few copiers pack (JPEG 2000, ITU-T T.800; JBIG2, ITU-T T.88). */
const decoders = (): string =>
  join(dirname(createRequire(join(process.cwd(), 'package.json')).resolve('pdfjs-dist/package.json')), 'wasm/');

const mended = (
  lines: Line[],
  taught: Taught,
  said: Readonly<Record<number, SaidRole>> = {},
): { lines: Line[] } & Mended => ({
  lines,
  ...readDocument(lines, { said, taught }),
});

const noTable = refused(
  'bad-input',
  'The table needs a row of headings, one of them “question”, and at least one row below it.',
);

/** The text of a document with all its form. */
export function wordsOf(document: Uint8Array): string | null {
  const parts = unpack(document, (part) => part === 'word/document.xml');
  const words = parts.ok ? parts.value.get('word/document.xml') : undefined;
  return words ? new TextDecoder().decode(words) : null;
}

type Readings = typeof readings;
/** A reading by its name, with what it takes. */
export type Reading = { [Name in keyof Readings]: { name: Name; sent: Parameters<Readings[Name]> } }[keyof Readings];
/** What a reading answers with. */
export type ReadBy<Name extends keyof Readings> = Awaited<ReturnType<Readings[Name]>>;

/** Reads in this very thread. */
export const readHere = async ({ name, sent }: Reading): Promise<Result<unknown>> =>
  (readings[name] as (...sent: unknown[]) => Result<unknown> | Promise<Result<unknown>>)(...sent);
