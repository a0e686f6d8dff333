import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { NodeCompiler } from '@myriaddreamin/typst-ts-node-compiler';
import { zipSync } from 'fflate';
import { palette } from '../core/base/palette';
import { documentsAFile, type PrintedPicture } from '../core/print/printOrder';
import type { PrintDocument } from './printNodes';
import { program } from './program';

const require = createRequire(join(process.cwd(), 'package.json'));

/** The faces of the screen, as they ship with the app. */
const faces = ['400Regular', '400Regular_Italic', '600SemiBold', '600SemiBold_Italic'];
const fontPaths = () =>
  ['source-serif-4', 'atkinson-hyperlegible-next'].flatMap((font) =>
    faces.map((face) => join(dirname(require.resolve(`@expo-google-fonts/${font}/package.json`)), face)),
  );

/** The only folder that the typesetter knows: it is nowhere on the machine, and holds what is given with each print. */
const room = '/nowhere';

/** After so many prints in which it was of no use, what was worked out before is forgotten. */
const keptFor = 5;

let compiler: NodeCompiler | null = null;

/**
 * Sets documents, one behind the other, as a PDF with tags (PDF/UA-1). What a font of ours lacks is taken from those of
 * the typesetter; a sign that none holds is set as an empty frame, in a PDF that is tagged but does not claim the standard.
 *
 * @param onProgress told how many documents are set: all of them, at the end
 * @throws where the typesetter cannot set them, with what it says
 */
export function typesetPdf(
  documents: readonly PrintDocument[],
  pictures: Readonly<Record<string, PrintedPicture>>,
  onProgress: (done: number) => void = () => {},
): Uint8Array {
  const pdf = typesetData({ title: documents[0]?.title ?? '', documents }, pictures);
  onProgress(documents.length);
  return pdf;
}

/**
 * Sets documents into one PDF, or into an archive of several where there are more than {@link documentsAFile}.
 *
 * @param what how the files of an archive are named: `papers 001-060.pdf`
 * @param onProgress told how many documents are set
 */
export function typesetFiles(
  documents: readonly PrintDocument[],
  pictures: Readonly<Record<string, PrintedPicture>>,
  what: string,
  onProgress: (done: number) => void = () => {},
): Uint8Array {
  if (documents.length <= documentsAFile) return typesetPdf(documents, pictures, onProgress);
  const files: Record<string, Uint8Array> = {};
  const place = (at: number) => String(at).padStart(3, '0');
  for (let from = 0; from < documents.length; from += documentsAFile) {
    const some = documents.slice(from, from + documentsAFile);
    const name = `${what} ${place(from + 1)}-${place(from + some.length)}.pdf`;
    files[name] = typesetPdf(some, pictures, (done) => onProgress(from + done));
    forgetAll();
  }
  // A PDF is packed already.
  return zipSync(files, { level: 0 });
}

/** Gives back what the typesetter has kept; its documents lie outside the heap, so that nothing else would soon. */
function forgetAll(): void {
  compiler?.evictCache(0);
  globalThis.gc?.();
}

/** A drawing of one page of an answer sheet, shared by all sheets of its layout; measures in millimetres. */
export type SheetDrawing = {
  width: number;
  height: number;
  /** Upper left corner, width and height of the head; upper left corner and side of the code. */
  head: [number, number, number, number];
  code: [number, number, number];
  /** Middle and side of each square, one after the other. */
  corners: number[];
  boxes: number[];
  strokes: [number, number, number, number][];
  /** Where, how high, aligned to which side, whether strong, and what. */
  labels: [number, number, number, 'left' | 'center' | 'right', boolean, string][];
};

/** One sheet on a page of A4. `code` is a drawing of the printed code, `spelled` what it says. */
export type PlacedSheet = {
  drawing: number;
  x: number;
  y: number;
  title: string;
  name: string;
  note: string;
  says: string;
  code: string;
  spelled: string;
};

type Printed = {
  title: string;
  documents?: readonly PrintDocument[];
  drawings?: readonly SheetDrawing[];
  /** The sheets of each page of A4. */
  papers?: readonly (readonly PlacedSheet[])[];
  /** Pictures that fill a page each, by their names: JPEG. */
  scans?: readonly string[];
};

/** Sets whatever is printed; {@link typesetPdf} says how. */
export function typesetData(
  { title, documents = [], drawings = [], papers = [], scans = [] }: Printed,
  pictures: Readonly<Record<string, PrintedPicture>> = {},
  scanned: Readonly<Record<string, Uint8Array>> = {},
): Uint8Array {
  compiler ??= NodeCompiler.create({ workspace: room, fontArgs: [{ fontPaths: fontPaths() }] });
  const data = {
    title: title || 'Untitled',
    ink: palette.ink,
    quiet: palette.ink2,
    edge: palette.edge,
    documents,
    drawings,
    papers,
    scans,
  };
  compiler.resetShadow();
  compiler.mapShadow(`${room}/print.json`, Buffer.from(JSON.stringify(data)));
  for (const [hash, { data: bytes }] of Object.entries(pictures))
    compiler.mapShadow(`${room}/pictures/${hash}.png`, Buffer.from(bytes));
  for (const [name, bytes] of Object.entries(scanned))
    compiler.mapShadow(`${room}/scans/${name}.jpg`, Buffer.from(bytes));
  const compiled = compiler.compile({ mainFileContent: program, resetRead: true });
  const { result } = compiled;
  if (!result)
    throw new Error(`The page could not be set: ${JSON.stringify(compiled.takeDiagnostics()?.shortDiagnostics)}`);
  const pdf = asStandard(compiler, result);
  // What several prints after one another have in common is kept for a while: sheets of a class are much alike.
  compiler.evictCache(keptFor);
  return new Uint8Array(pdf);
}

type Set = Parameters<NodeCompiler['pdf']>[0];

/** A sign that no font holds is forbidden by the standard; a class is not left without its papers for that. */
function asStandard(using: NodeCompiler, set: Set): Buffer {
  try {
    return using.pdf(set, { pdfStandard: 'ua-1' });
  } catch {
    return using.pdf(set);
  }
}
