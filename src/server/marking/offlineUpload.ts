import { and, eq, isNull } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { richText } from '@/core/base/rich';
import { counted } from '@/core/base/words';
import { mostSheetRows, readMarksSheet, type SheetRow } from '@/core/marking/marksSheet';
import { returnedFile } from '@/db/schema';
import { answerFolder, kindOf } from '../attempt/answerFiles';
import { type Context, newId } from '../house/context';
import { keepFile, tidyFileName } from '../house/keepFile';
import { fingerprint, previewKey, unlessAsSeen } from '../house/staged';
import { undoable } from '../house/undoable';
import { bytes, command, query } from '../house/useCase';
import { type Unpacked, wordsOf } from '../outside/readings';
import { readOutside } from '../outside/readOutside';
import { slotsToMark, takeBackMarks, takenBackSaid, writeMarks } from './giveMark';
import { answerDocument, gatherOffline, type OfflineAnswer } from './offlineArchive';
import { toMarkedSitting, toMarking } from './toMarking';

/** The largest upload of marks with annotated files, in bytes. */
export const largestMarks = 60_000_000;

/** A file that would go back with an answer. */
type BroughtFile = { code: string; name: string; bytes: number };

export type MarksPreview = {
  /** Rows that change something, or cannot be taken; the others are counted. */
  rows: (SheetRow & { question: string; outOf: number })[];
  changes: number;
  same: number;
  empty: number;
  wrong: number;
  files: BroughtFile[];
  /** Files of the archive that belong to no answer, or are of no kind that is taken. */
  strange: string[];
  /** Names exactly what was looked at. */
  key: string;
};

type ReadUpload = { preview: MarksPreview; changes: Extract<SheetRow, { kind: 'change' }>[]; files: Brought[] };
type Brought = BroughtFile & { slotId: string; type: string; content: Uint8Array };

const sheetLimit = { most: mostSheetRows, of: `at most ${mostSheetRows} rows are read at once` };

/** At most so many rows are shown; the rest is counted. */
const mostShown = 500;

async function readUpload(
  context: Context,
  courseId: string,
  sittingId: string,
  bytes: Uint8Array,
): Promise<Result<ReadUpload>> {
  const found = gatherOffline(context, courseId, sittingId, null);
  if (!found.ok) return found;
  const { sheet } = found.value;
  const upload = await openUpload(bytes, sheet);
  if (!upload.ok) return upload;
  const read = upload.value.table ? readMarksSheet(upload.value.table, sheet) : { ok: true as const, rows: [] };
  if (!read.ok) return refused('bad-input', read.message);
  if (read.rows.length && read.rows.every((row) => row.kind === 'wrong' && row.why === 'unknown'))
    return refused(
      'bad-input',
      'None of these rows names an answer of this sitting: this sheet belongs to another one.',
    );
  const changes = read.rows.flatMap((row) => (row.kind === 'change' ? [row] : []));
  const byCode = new Map(sheet.map((one) => [one.code, one]));
  const counts = (kind: SheetRow['kind']) => read.rows.filter((row) => row.kind === kind).length;
  const { files, strange } = upload.value;
  const key = fingerprint([changes, files.map((one) => [one.code, one.name, one.bytes])]);
  return ok({
    changes,
    files,
    preview: {
      rows: read.rows
        .filter((row) => row.kind === 'change' || row.kind === 'wrong')
        .sort((a, b) => Number(b.kind === 'wrong') - Number(a.kind === 'wrong') || a.line - b.line)
        .slice(0, mostShown)
        .map((row) => ({
          ...row,
          question: byCode.get(row.code)?.question.name ?? '',
          outOf: byCode.get(row.code)?.outOf ?? 0,
        })),
      changes: changes.length,
      same: counts('same'),
      empty: counts('empty'),
      wrong: counts('wrong'),
      files: files.map((one) => ({ code: one.code, name: one.name, bytes: one.bytes })),
      strange,
      key,
    },
  });
}

type Opened = { table: string[][] | null; files: Brought[]; strange: string[] };

/** What an upload is, by its content: a spreadsheet, an archive with one, or a table as text. */
async function openUpload(bytes: Uint8Array, sheet: OfflineAnswer[]): Promise<Result<Opened>> {
  const read = await readOutside('marks', bytes, sheetLimit);
  if (!read.ok) return read;
  const byCode = new Map(sheet.map((one) => [one.code, one]));
  // Both sheets lie in the archive as it was taken: what was filled in is the one that differs from the other in what it says.
  const [table = null] = read.value.tables.sort((a, b) => filled(b, sheet) - filled(a, sheet));
  const opened: Opened = { table, files: [], strange: [] };
  for (const file of read.value.files) {
    const { path, content } = file;
    const name = path.split('/').at(-1) ?? '';
    if (name === '') continue;
    const code = /(?:^|\s)([a-z0-9]{4}-[a-z0-9]{4})(?=[\s._-]|$)/i.exec(name)?.[1]?.toLowerCase() ?? '';
    const answer = byCode.get(code);
    if (!answer) {
      if (!/(^|\/)(question|read me|\d\d [^/]*)\.txt$/.test(path)) opened.strange.push(path);
      continue;
    }
    if (await isAsTaken(name, file, answer)) continue;
    const kind = await kindOf(content);
    if (!kind) {
      opened.strange.push(path);
      continue;
    }
    opened.files.push({
      slotId: answer.slotId,
      code,
      name: tidyFileName(name),
      bytes: content.length,
      type: kind.type,
      content,
    });
  }
  if (read.value.isArchive && !opened.table && opened.files.length === 0)
    return refused(
      'bad-input',
      'This archive holds neither a marks sheet (marks.xlsx or marks.csv) nor a file whose name begins with the code of an answer.',
    );
  return ok(opened);
}

/** How many rows of a sheet say something else than what stands there already. */
function filled(table: string[][], sheet: OfflineAnswer[]): number {
  const read = readMarksSheet(table, sheet);
  return read.ok ? read.rows.filter((row) => row.kind === 'change' || row.kind === 'wrong').length : 0;
}

/** Whether a file of an archive is one that was taken and not written into. */
async function isAsTaken(name: string, { words }: Unpacked, answer: OfflineAnswer): Promise<boolean> {
  if (name.includes(' handed in ')) return true;
  if (name.endsWith(`${answer.code}.txt`)) return true;
  if (!name.endsWith(`${answer.code}.docx`) || words === null) return false;
  return wordsOf(await answerDocument(answer.question.name, richText(answer.question.stem), answer.text)) === words;
}

/** What an upload of marks would change, and what of it cannot be taken; nothing is changed. */
export const previewMarks = query({
  admits: toMarkedSitting,
  takes: [bytes],
  async does({ context, courseId, sittingId }, file): Promise<Result<MarksPreview>> {
    const read = await readUpload(context, courseId, sittingId, file);
    return read.ok ? ok(read.value.preview) : read;
  },
});

/** An upload was taken over: its marks are taken back where nobody has marked since, and its files. */
export const marksBroughtBack = undoable<{ courseId: string; sittingId: string; batch: string }>(
  'marking.brought-back',
  {
    action: 'marking.mark',
    says: (_kept, { marks, files }) =>
      `${counted(Number(marks), 'mark')} and ${counted(Number(files), 'file')} brought back from marking offline`,
    apply(tx, context, { courseId, sittingId, batch }) {
      const marking = toMarking.open(context, courseId);
      if (!marking.ok || !marking.value.mayMark(sittingId)) return notFound('upload');
      const files = tx
        .update(returnedFile)
        .set({ takenBackAt: context.now })
        .where(and(eq(returnedFile.batch, batch), isNull(returnedFile.takenBackAt)))
        .run().changes;
      const taken = takeBackMarks(context, courseId, batch);
      if (!taken.ok && files === 0) return taken;
      return ok(takenBackSaid({ ...(taken.ok ? taken.value : { takenBack: 0, later: 0 }), files }));
    },
  },
);

/**
 * Takes an upload of marks over as it was looked at: all of it or nothing. Rows that cannot be taken are left out, as the
 * preview said.
 *
 * @param key of the preview
 */
export const applyMarks = command({
  admits: toMarkedSitting,
  takes: [bytes, previewKey],
  logs: 'marking.brought-back',
  async prepares({ context, courseId, sittingId }, file, key): Promise<Result<ReadUpload>> {
    const read = await readUpload(context, courseId, sittingId, file);
    return (read.ok && unlessAsSeen(key, read.value.preview.key, 'Marks or answers have')) || read;
  },
  does({
    tx,
    context,
    courseId,
    sittingId,
    record,
    ready,
  }): Result<{ marked: number; files: number; auditId: number }> {
    const { changes, files, preview } = ready;
    if (changes.length === 0 && files.length === 0)
      return refused('bad-input', 'Nothing in this upload changes anything.');
    const folder = context.files ?? answerFolder();
    const hashes = new Map(files.map((file) => [file, keepFile(folder, file.content)]));
    const batch = newId();
    const rows = slotsToMark(
      tx,
      courseId,
      changes.map((one) => one.slotId),
    );
    if (changes.some((one) => rows.get(one.slotId)?.sittingId !== sittingId)) return notFound('answer');
    writeMarks(
      tx,
      context,
      changes.map(({ slotId, points, comment }) => {
        const row = rows.get(slotId) as NonNullable<ReturnType<typeof rows.get>>;
        return { row, given: { points, comment, kind: 'hand' as const, notes: row.newest?.notes ?? [], batch } };
      }),
    );
    if (files.length)
      tx.insert(returnedFile)
        .values(
          files.map((file) => ({
            id: newId(),
            slotId: file.slotId,
            name: file.name,
            type: file.type,
            bytes: file.bytes,
            hash: hashes.get(file) as string,
            batch,
            at: context.now,
          })),
        )
        .run();
    const auditId = record({
      subjectId: sittingId,
      detail: { batch, marks: changes.length, files: files.length, wrong: preview.wrong },
      undo: marksBroughtBack.of({ courseId, sittingId, batch }),
      within: sittingId,
    });
    return ok({ marked: changes.length, files: files.length, auditId });
  },
});
