import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { Document, HeadingLevel, Packer, Paragraph } from 'docx';
import { inArray } from 'drizzle-orm';
import { strToU8, type Zippable, zipSync } from 'fflate';
import { z } from 'zod';
import { csvText } from '@/core/base/csv';
import { id } from '@/core/base/id';
import { ok, type Result } from '@/core/base/result';
import { richText } from '@/core/base/rich';
import { type SheetAnswer, sheetColumns } from '@/core/marking/marksSheet';
import { countWords } from '@/core/question/types/written/student';
import { responseFile } from '@/db/schema';
import { answerFolder } from '../attempt/answerFiles';
import { mediaFile } from '../bank/media';
import type { Context } from '../house/context';
import { tidyFileName } from '../house/keepFile';
import { command } from '../house/useCase';
import { writeXlsx } from '../house/writeXlsx';
import { type AnswerBody, bodiesOf } from './answerBodies';
import { answersToMark, type MarkingPage, papersToMark, type QuestionToMark } from './answersToMark';
import { toMarkedSitting } from './toMarking';

/** A short name of an answer, the same whenever it is asked for: it leads to nobody. */
export const answerCode = (slotId: string): string => {
  const letters = 'abcdefghjkmnpqrstuvwxyz23456789';
  const bytes = createHash('sha256').update(`answer ${slotId}`).digest();
  return Array.from(
    { length: 8 },
    (_, i) => `${i === 4 ? '-' : ''}${letters[(bytes[i] as number) % letters.length]}`,
  ).join('');
};

/** An answer as it stands on a marks sheet. */
export type OfflineAnswer = SheetAnswer & { paper: number; question: QuestionToMark; words: number; text: string };
export type Offline = { page: MarkingPage; bodies: Map<string, AnswerBody>; sheet: OfflineAnswer[] };

/** Everything a person may mark of a sitting, or of one question of it. */
export function gatherOffline(
  context: Context,
  courseId: string,
  sittingId: string,
  questionId: string | null,
): Result<Offline> {
  const page = questionId
    ? answersToMark(context, courseId, sittingId, questionId)
    : papersToMark(context, courseId, sittingId);
  if (!page.ok) return page;
  const { heads, questions } = page.value;
  const bodies = new Map(
    bodiesOf(
      context.db,
      heads.map((head) => head.slotId),
    ).map((body) => [body.slotId, body]),
  );
  return ok({
    page: page.value,
    bodies,
    sheet: heads.map((head) => {
      const body = bodies.get(head.slotId) as AnswerBody;
      return {
        slotId: head.slotId,
        code: answerCode(head.slotId),
        outOf: body.outOf,
        points: body.points,
        comment: body.comment,
        // A word that no spreadsheet takes for a number: saved again it is the same.
        state: `r${body.revision}m${body.markId ?? 0}`,
        paper: head.paper,
        question: questions.find((one) => one.questionId === head.questionId) as QuestionToMark,
        words: countWords(body.text),
        text: body.text,
      };
    }),
  });
}

const rowOf = (one: OfflineAnswer): (string | number | null)[] => [
  one.code,
  one.question.name,
  one.paper,
  one.words,
  one.outOf,
  one.points,
  one.comment,
  one.state,
];

const fileName = (text: string) =>
  tidyFileName(text)
    .replace(/[<>:"|?*.]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, 60);

const archiveOrder = z.object({
  /** Only the answers to one question. */
  questionId: id('question').nullable().default(null),
  /** A folder for each question, or for each paper. */
  layout: z.enum(['question', 'paper']).default('question'),
});

/**
 * The answers of a sitting as an archive to be marked elsewhere: one file for each answer, as text and as a document, what
 * was handed in with it, the questions, and a sheet for the marks. Nobody's name stands in it.
 */
export const marksArchive = command({
  admits: toMarkedSitting,
  takes: [archiveOrder.prefault({})],
  logs: 'marking.taken-offline',
  async prepares({ context, courseId, sittingId }, { questionId, layout }) {
    const found = gatherOffline(context, courseId, sittingId, questionId);
    if (!found.ok) return found;
    const { page, bodies, sheet } = found.value;
    const files: Zippable = {};
    const rows = sheet.map(rowOf);
    files['marks.csv'] = strToU8(csvText(sheetColumns, rows));
    files['marks.xlsx'] = await writeXlsx('Marks', [[...sheetColumns], ...rows]);
    files['read me.txt'] = strToU8(readMe(page.sittingTitle));
    const number = new Map(page.questions.map((one, i) => [one.questionId, i + 1]));
    const folderOf = (question: QuestionToMark) =>
      `${String(number.get(question.questionId)).padStart(2, '0')} ${fileName(question.name)}`;
    for (const question of page.questions) {
      const said = `${richText(question.stem)}\n\nModel answer\n${richText(question.modelAnswer) || '–'}\n`;
      files[layout === 'question' ? `${folderOf(question)}/question.txt` : `questions/${folderOf(question)}.txt`] =
        strToU8(said);
    }
    const handedIn = filesOf(context, [...bodies.keys()]);
    for (const one of sheet) {
      const body = bodies.get(one.slotId) as AnswerBody;
      const folder =
        layout === 'question'
          ? `${folderOf(one.question)}/${one.code}`
          : `paper ${String(one.paper).padStart(3, '0')}/${folderOf(one.question)} ${one.code}`;
      files[`${folder}.txt`] = strToU8(`${body.text}\n`);
      files[`${folder}.docx`] = await answerDocument(one.question.name, richText(one.question.stem), one.text);
      for (const { id, name, hash } of handedIn.get(one.slotId) ?? []) {
        const file = mediaFile(hash, answerFolder());
        if (existsSync(file))
          files[`${folder} handed in ${id.slice(0, 4)} ${fileName(name.replace(/\.[^.]*$/, ''))}${extension(name)}`] =
            readFileSync(file);
      }
    }
    return ok({
      answers: sheet.length,
      name: `${fileName(page.sittingTitle)} answers.zip`,
      bytes: zipSync(files, { level: 6 }),
    });
  },
  does({ sittingId, record, ready }, { questionId, layout }): Result<{ name: string; bytes: Uint8Array }> {
    const { answers, name, bytes } = ready;
    record({ subjectId: sittingId, detail: { answers, questionId, layout } });
    return ok({ name, bytes });
  },
});

const extension = (name: string): string => /\.[A-Za-z0-9]{1,8}$/.exec(name)?.[0].toLowerCase() ?? '';

const readMe = (title: string) => `${title}

Every answer has a code, such as ${answerCode('example')}. Put the points and the comment for it into marks.xlsx or marks.csv, in
the row with its code. Rows may be sorted anew, left empty or left out. Leave the columns "Answer" and "State" as they are.

Annotated files go back to the students: save them under any name that begins with the code of the answer, and upload them
together with the sheet as one archive (.zip).
`;

/** One answer as a document, so that it can be written into. */
export async function answerDocument(name: string, stem: string, text: string): Promise<Uint8Array> {
  const lines = (words: string) => words.split('\n').map((line) => new Paragraph({ text: line }));
  const document = new Document({
    sections: [
      {
        children: [
          new Paragraph({ text: name, heading: HeadingLevel.HEADING_2 }),
          ...lines(stem),
          new Paragraph({ text: 'Answer', heading: HeadingLevel.HEADING_3 }),
          ...lines(text),
        ],
      },
    ],
  });
  return new Uint8Array(await Packer.toBuffer(document));
}

function filesOf(context: Context, slotIds: readonly string[]) {
  const bySlot = new Map<string, (typeof responseFile.$inferSelect)[]>();
  for (const row of context.db
    .select()
    .from(responseFile)
    .where(inArray(responseFile.slotId, [...slotIds]))
    .all())
    bySlot.set(row.slotId, [...(bySlot.get(row.slotId) ?? []), row]);
  return bySlot;
}
