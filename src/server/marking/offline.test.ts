import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { csvText, readCsv } from '@/core/base/csv';
import { minute } from '@/core/base/time';
import { audit, mark, publication, returnedFile, sitting } from '@/db/schema';
import type { Actor } from '../house/context';
import { writeXlsx } from '../house/writeXlsx';
import { openReturnedFile } from '../release/openReturnedFile';
import { must, refusal, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { undoChange } from '../undoChange';
import { answersToMark } from './answersToMark';
import { giveMark } from './giveMark';
import { answerCode, marksArchive } from './offlineArchive';
import { applyMarks, previewMarks } from './offlineUpload';

let school: School;
let essay: string;
let sittingId: string;
let slots: string[];
let folder: string;
const teacher = (later = 60) => school.as(school.teacher, later * minute);

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'wuzzen-returned-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

beforeEach(() => {
  school = new School(3);
  essay = school.question(writtenContent('Why: the "tide"?'));
  const other = school.question(writtenContent('How?'));
  sittingId = school.sitting(school.exam([school.fixed(essay, 6), school.fixed(other, 4)]));
  slots = school.students.map(
    (student, i) =>
      takePaper(school, sittingId, student, [{ text: `=1+${i}` }, { text: `how ${i}` }]).slotIds[0] as string,
  );
});

const archive = async (layout: 'question' | 'paper' = 'question') =>
  unzipSync(must(await marksArchive(teacher(), school.courseId, sittingId, { layout })).bytes);
const text = (bytes: Uint8Array | undefined) => new TextDecoder().decode(bytes);
const look = (bytes: Uint8Array) => previewMarks(teacher(), school.courseId, sittingId, bytes);
const apply = (bytes: Uint8Array, key: string) =>
  applyMarks({ ...teacher(), files: folder }, school.courseId, sittingId, bytes, key);
const head = (slotId: string) =>
  must(answersToMark(teacher(), school.courseId, sittingId, essay)).heads.find((one) => one.slotId === slotId);

/** The sheet of the archive with points put in by slot. */
async function filledIn(points: Record<string, string>): Promise<string[][]> {
  const [head = [], ...rows] = readCsv(text((await archive())['marks.csv']));
  return [
    head,
    ...rows.map((row) => row.map((cell, i) => (head[i] === 'Points' ? (points[row[0] ?? ''] ?? cell) : cell))),
  ];
}
const csv = ([head = [], ...rows]: string[][]) => strToU8(csvText(head, rows));

describe('answers taken away', () => {
  it('are a file each, as text and as a document, with the questions and a sheet, and nobody’s name', async () => {
    const files = await archive();
    const code = answerCode(slots[1] as string);
    const names = Object.keys(files);
    expect(names.filter((name) => name.endsWith('.docx'))).toHaveLength(6);
    expect(names.find((name) => name.endsWith(`${code}.txt`))).toMatch(/^01 Why/);
    expect(text(files[names.find((name) => name.endsWith(`${code}.txt`)) ?? ''])).toBe('=1+1\n');
    expect(text(files['01 Why the tide/question.txt'])).toContain('Model answer');
    const word = unzipSync(files[names.find((name) => name.endsWith(`${code}.docx`)) ?? ''] as Uint8Array);
    expect(text(word['word/document.xml'])).toContain('=1+1');
    const everything = names.join() + Object.values(files).map(text).join();
    for (const student of school.students) expect(everything).not.toContain(student.name);
    expect(readCsv(text(files['marks.csv']))).toHaveLength(7);
    const byPaper = Object.keys(await archive('paper'));
    expect(byPaper.filter((name) => /^paper 00\d\/0\d .+\.txt$/.test(name))).toHaveLength(6);
  });
});

describe('marks brought back', () => {
  it('are looked at, taken over as they were looked at, and taken back', async () => {
    const [one, two] = slots.map(answerCode) as [string, string];
    const sheet = await filledIn({ [one]: '4,5', [two]: '6' });
    const upload = csv([sheet[0] as string[], ...sheet.slice(1).reverse()]);
    const preview = must(await look(upload));
    expect(preview).toMatchObject({ changes: 2, empty: 4, wrong: 0, same: 0 });
    expect(school.db.select().from(mark).all()).toHaveLength(0);
    const { marked, auditId } = must(await apply(upload, preview.key));
    expect(marked).toBe(2);
    expect(head(slots[0] as string)?.points).toBe(4.5);
    // The same file once more: its marks have been seen as waiting.
    expect(must(await look(upload))).toMatchObject({ changes: 0, wrong: 2 });
    must(undoChange(teacher(), school.courseId, auditId));
    expect(head(slots[0] as string)?.points).toBeNull();
  });

  it('come from a spreadsheet as from a table of text', async () => {
    const sheet = await filledIn({ [answerCode(slots[2] as string)]: '3' });
    const preview = must(await look(await writeXlsx('Marks', sheet)));
    expect(preview).toMatchObject({ changes: 1 });
    expect(preview.rows[0]).toMatchObject({ points: 3, outOf: 6 });
    // A computed cell is read as what it shows.
    const row = sheet.findIndex(([code]) => code === answerCode(slots[2] as string)) + 1;
    const parts = unzipSync(await writeXlsx('Marks', sheet));
    const path = 'xl/worksheets/sheet1.xml';
    const computed = strFromU8(parts[path] as Uint8Array).replace(
      new RegExp(`<c r="F${row}".*?</c>`),
      `<c r="F${row}"><f>1+1</f><v>2</v></c>`,
    );
    const shown = must(await look(zipSync({ ...parts, [path]: strToU8(computed) })));
    expect(shown.rows[0]).toMatchObject({ points: 2 });
  });

  it('bring annotated files back with them; what was not written into stays away', async () => {
    const files = await archive();
    const code = answerCode(slots[0] as string);
    const sheet = csv(await filledIn({ [code]: '5' }));
    const pdf = strToU8('%PDF-1.4\n%âãÏÓ\n1 0 obj <<>> endobj\ntrailer <<>>\n%%EOF');
    const upload = zipSync({
      ...files,
      'marks.csv': sheet,
      [`back/${code} with notes.pdf`]: pdf,
      'back/holiday.pdf': pdf,
      [`back/${code}.exe`]: new Uint8Array([0x4d, 0x5a, 0, 0, 1]),
    });
    const preview = must(await look(upload));
    expect(preview.changes).toBe(1);
    expect(preview.files.map((file) => file.name)).toEqual([`${code} with notes.pdf`]);
    expect(preview.strange.sort()).toEqual([`back/${code}.exe`, 'back/holiday.pdf'].sort());
    const { auditId } = must(await apply(upload, preview.key));
    expect(school.db.select().from(returnedFile).all()).toMatchObject([{ slotId: slots[0], takenBackAt: null }]);
    const [file] = school.db.select().from(returnedFile).all();
    const open = (actor: Actor) => openReturnedFile(school.as(actor, 70 * minute), file?.id ?? '');
    const [owner, other] = school.students as [Actor, Actor];
    expect(must(open(school.teacher)).name).toBe(`${code} with notes.pdf`);
    // The student gets it with the marker's comments, not before; nobody else ever.
    expect(refusal(open(owner))).toBe('not-found');
    school.db
      .update(sitting)
      .set({
        releasePlan: {
          questions: [{ begins: { kind: 'on-publishing' } }],
          comments: [{ begins: { kind: 'on-publishing' } }],
        },
      })
      .run();
    expect(refusal(open(owner))).toBe('not-found');
    school.db
      .insert(publication)
      .values({
        sittingId,
        userId: owner.userId,
        earned: 5,
        possible: 10,
        attemptIds: [],
        publishedAt: teacher().now,
        publishedBy: 'x',
      })
      .run();
    expect(refusal(open(owner))).toBe('accepted');
    expect(refusal(open(other))).toBe('not-found');
    expect(refusal(open(school.marker))).toBe('not-found');
    expect(refusal(open(school.elsewhere.teacher))).toBe('not-found');
    expect(refusal(undoChange(school.as(school.students[0] as Actor), school.courseId, auditId))).toBe('not-allowed');
    expect(refusal(undoChange(school.as(school.marker), school.courseId, auditId))).toBe('not-found');
    expect(must(undoChange(teacher(), school.courseId, auditId)).said).toBe('1 mark and 1 file taken back.');
    // What became of the file stands in the log too.
    const [line] = school.db.select().from(audit).where(eq(audit.action, 'undo')).all();
    expect(line).toMatchObject({ subjectId: String(auditId), detail: { said: '1 mark and 1 file taken back.' } });
    expect(school.db.select().from(returnedFile).get()?.takenBackAt).not.toBeNull();
  });

  it('say which rows cannot be taken, and never write over a mark given meanwhile', async () => {
    const [one, two, three] = slots.map(answerCode) as [string, string, string];
    const sheet = await filledIn({ [one]: '7', [two]: 'many', [three]: '2' });
    must(
      giveMark(teacher(), school.courseId, slots[2] as string, { points: 1, comment: '', revision: 1, before: null }),
    );
    const preview = must(await look(csv(sheet)));
    expect(preview).toMatchObject({ changes: 0, wrong: 3 });
    expect(preview.rows.map((row) => row.kind === 'wrong' && row.message).sort()).toEqual([
      'Someone has given this answer 1 point since the sheet was made.',
      'This question carries 6 points at most.',
      '“many” is no number.',
    ]);
    expect(refusal(await apply(csv(sheet), preview.key))).toBe('bad-input');
  });

  it('are refused when anything changed after the look, and as what they are when they are something else', async () => {
    const upload = csv(await filledIn({ [answerCode(slots[0] as string)]: '4' }));
    const { key } = must(await look(upload));
    must(
      giveMark(teacher(), school.courseId, slots[0] as string, { points: 1, comment: '', revision: 1, before: null }),
    );
    expect(refusal(await apply(upload, key))).toBe('conflict');
    const strange: [Uint8Array, RegExp][] = [
      [new Uint8Array(), /empty/],
      [new Uint8Array([0x41, 0xe9, 0x2c, 0x42]), /not written in UTF-8/],
      [strToU8('Name,Points\nx,1'), /no marks sheet/],
      [strToU8('Answer,Points\nabcd-efgh,1\nwxyz-2345,2'), /belongs to another one/],
      [new Uint8Array([0x50, 0x4b, 3, 4, 9, 9, 9, 9]), /damaged|neither/],
      [zipSync({ 'photo.txt': strToU8('x') }), /neither a marks sheet/],
    ];
    for (const [bytes, said] of strange) {
      const found = await look(bytes);
      expect(found.ok ? '' : found.problems[0]?.message).toMatch(said);
    }
    expect(refusal(await previewMarks(school.as(school.marker), school.courseId, sittingId, upload))).toBe('not-found');
    expect(refusal(await marksArchive(school.as(school.marker), school.courseId, sittingId))).toBe('not-found');
  });
});
