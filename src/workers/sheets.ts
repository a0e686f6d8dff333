import { greyOf } from '../core/answerSheet/greyPicture';
import { packPage } from '../core/answerSheet/pageParcel';
import { type KnownLayouts, knownLayouts, type ReadPage, readPage } from '../core/answerSheet/readPage';
import type { SheetOnFrame, SheetsMessage, SheetsWish } from '../core/answerSheet/sheetMessages';
import { pdfInPieces } from '../core/base/pdfRanges';

/** Pictures are made no larger than this before they are read, in pixels of their longer side. */
const longest = 2_400;
/** A picture of what is no sheet is kept this large. */
const keptLongest = 1_000;

const say = (message: SheetsMessage, moved: Transferable[] = []) => self.postMessage(message, { transfer: moved });

let goOn: (() => void) | null = null;
let beforeCamera: KnownLayouts = knownLayouts([]);
self.onmessage = ({ data }: MessageEvent<SheetsWish>) => {
  if (data === 'next') goOn?.();
  else if ('camera' in data) beforeCamera = knownLayouts(data.camera);
  else if ('frame' in data) void readFrame(data.frame);
  else void run(data.files, knownLayouts(data.layouts));
};
/** Nothing is read ahead: however many pages come, one is in memory. */
const next = () =>
  new Promise<void>((resolve) => {
    goOn = resolve;
  });

async function run(files: readonly File[], layouts: KnownLayouts): Promise<void> {
  for (const [i, file] of files.entries()) {
    const isPdf = file.type === 'application/pdf' || /\.pdf$/i.test(file.name);
    try {
      if (isPdf) await readPdf(file, i, layouts);
      else {
        say({ kind: 'pages', file: i, pages: 1 });
        await tell(file.name, () => pictureOf(file), layouts);
      }
    } catch (why) {
      const needsPassword = why instanceof Error && why.name === 'PasswordException';
      await tellUnreadable(needsPassword ? `${file.name}, which needs a password` : file.name);
    }
  }
  say({ kind: 'done' });
}

/** After so many pages a PDF is opened anew: what was read of it stays in memory while it is open. */
const pagesAtOnce = 20;

async function readPdf(file: File, i: number, layouts: KnownLayouts): Promise<void> {
  const scope = globalThis as { pdfjsWorker?: unknown };
  scope.pdfjsWorker ??= await import('pdfjs-dist/legacy/build/pdf.worker.mjs');
  const { getDocument, PDFDataRangeTransport } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const bytes = async (begin: number, end: number) => new Uint8Array(await file.slice(begin, end).arrayBuffer());
  let pages = 1;
  for (let from = 1; from <= pages; from += pagesAtOnce) {
    const opening = getDocument({
      ...pdfInPieces(PDFDataRangeTransport, file.size, bytes),
      isEvalSupported: false,
      disableFontFace: true,
      useSystemFonts: false,
      verbosity: 0,
      CanvasFactory: Canvases,
      FilterFactory: NoFilters,
      BinaryDataFactory: Decoders,
      useWorkerFetch: false,
    } as Parameters<typeof getDocument>[0]);
    try {
      const pdf = await opening.promise;
      pages = pdf.numPages;
      if (from === 1) say({ kind: 'pages', file: i, pages });
      for (let n = from; n < from + pagesAtOnce && n <= pages; n++)
        await tell(`${file.name}, page ${n}`, () => pixelsOfPage(pdf, n), layouts);
    } finally {
      await opening.destroy();
    }
  }
}

type Pdf = Awaited<ReturnType<typeof import('pdfjs-dist/legacy/build/pdf.mjs')['getDocument']>['promise']>;

/** A page of a PDF as pixels. */
async function pixelsOfPage(pdf: Pdf, n: number): Promise<ImageData> {
  const page = await pdf.getPage(n);
  const plain = page.getViewport({ scale: 1 });
  const viewport = page.getViewport({ scale: longest / Math.max(plain.width, plain.height) });
  const canvas = new OffscreenCanvas(Math.ceil(viewport.width), Math.ceil(viewport.height));
  const canvasContext = canvas.getContext('2d', { willReadFrequently: true });
  if (!canvasContext) throw new Error('no canvas');
  await page.render({ canvasContext, canvas, viewport } as unknown as Parameters<typeof page.render>[0]).promise;
  page.cleanup();
  return canvasContext.getImageData(0, 0, canvas.width, canvas.height);
}

/** Gives the reader of PDFs canvases where there is no document. */
class Canvases {
  create(width: number, height: number) {
    const canvas = new OffscreenCanvas(Math.max(1, width), Math.max(1, height));
    return { canvas, context: canvas.getContext('2d', { willReadFrequently: true }) };
  }
  reset(entry: { canvas: OffscreenCanvas }, width: number, height: number) {
    entry.canvas.width = width;
    entry.canvas.height = height;
  }
  destroy(entry: { canvas: OffscreenCanvas | null; context: unknown }) {
    entry.canvas = null;
    entry.context = null;
  }
}
/** Gives the reader of PDFs its decoders for pictures that few copiers pack (JPEG 2000, ITU-T T.800; JBIG2, ITU-T T.88). */
class Decoders {
  async fetch({ filename }: { filename: string }): Promise<Uint8Array> {
    const lies = decoders[filename];
    if (!lies) throw new Error(`${filename} is not at hand.`);
    return new Uint8Array(await (await fetch(lies)).arrayBuffer());
  }
}
const decoders: Readonly<Record<string, URL>> = {
  'jbig2.wasm': new URL('../../node_modules/pdfjs-dist/wasm/jbig2.wasm', import.meta.url),
  'openjpeg.wasm': new URL('../../node_modules/pdfjs-dist/wasm/openjpeg.wasm', import.meta.url),
};
class NoFilters {
  addFilter = () => 'none';
  addHCMFilter = () => 'none';
  addAlphaFilter = () => 'none';
  addLuminosityFilter = () => 'none';
  addHighlightHCMFilter = () => 'none';
  destroy() {}
}

async function pictureOf(file: Blob): Promise<ImageData> {
  return pixelsOf(await createImageBitmap(file, { imageOrientation: 'from-image' }));
}

/** The pixels of a picture, no more than are needed. The picture is given back. */
function pixelsOf(bitmap: ImageBitmap): ImageData {
  const scale = Math.min(1, longest / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(Math.round(bitmap.width * scale), Math.round(bitmap.height * scale));
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('no canvas');
  context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return context.getImageData(0, 0, canvas.width, canvas.height);
}

/** Reads one picture of a camera. What is no sheet is not worth a word: the next picture comes at once. */
async function readFrame(frame: ImageBitmap): Promise<void> {
  const sheets: SheetOnFrame[] = [];
  try {
    for (const { found, kept } of readPage(greyOf(pixelsOf(frame)), beforeCamera)) {
      if (!found.code) continue;
      const doubts = found.darkness && beforeCamera.doubts(found.code, found.darkness);
      const parcel = found.darkness && packPage({ ...found, source: 'camera' }, await packed(kept, false));
      sheets.push({ code: found.code, doubts, parcel, isOurs: beforeCamera.page(found.code) !== null });
    }
  } catch {
    // A picture that could not be read is as one without a sheet.
  }
  say(
    { kind: 'frame', sheets },
    sheets.flatMap((one) => one.parcel?.buffer ?? []),
  );
}

/** Reads one picture, tells each sheet on it, and waits until it has been sent on. */
async function tell(source: string, picture: () => Promise<ImageData>, layouts: KnownLayouts): Promise<void> {
  let read: ReadPage[];
  try {
    read = readPage(greyOf(await picture()), layouts);
  } catch {
    return tellUnreadable(source);
  }
  for (const { found, kept } of read) {
    const parcel = packPage({ ...found, source }, await packed(kept, found.darkness === null));
    say({ kind: 'page', parcel, source, problem: found.problem }, [parcel.buffer]);
    await next();
  }
}

async function tellUnreadable(source: string): Promise<void> {
  const parcel = packPage({ problem: 'unreadable', code: null, darkness: null, source }, new Uint8Array());
  say({ kind: 'page', parcel, source, problem: 'unreadable' }, [parcel.buffer]);
  await next();
}

/** A picture in shades of grey, packed for keeping. */
async function packed({ width, height, data }: ReadPage['kept'], shrinks: boolean): Promise<Uint8Array> {
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < data.length; i++) {
    pixels.fill(data[i] as number, 4 * i, 4 * i + 3);
    pixels[4 * i + 3] = 255;
  }
  const whole = new OffscreenCanvas(width, height);
  whole.getContext('2d')?.putImageData(new ImageData(pixels, width, height), 0, 0);
  const scale = shrinks ? Math.min(1, keptLongest / Math.max(width, height)) : 1;
  const canvas = new OffscreenCanvas(Math.round(width * scale), Math.round(height * scale));
  canvas.getContext('2d')?.drawImage(whole, 0, 0, canvas.width, canvas.height);
  const blob = await canvas.convertToBlob({ type: 'image/webp', quality: 0.6 });
  return new Uint8Array(await blob.arrayBuffer());
}
