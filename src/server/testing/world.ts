import { and, eq } from 'drizzle-orm';
import type { Thing } from '@/core/base/id';
import { richFromText } from '@/core/base/rich';
import { day, minute } from '@/core/base/time';
import { usualRound } from '@/core/round/roundRules';
import {
  correction,
  courseNote,
  feedbackReply,
  gradeEntry,
  gradeGroup,
  media,
  mediaBank,
  membership,
  offer,
  paperSlot,
  remarking,
  responseFile,
  returnedFile,
  section,
  session,
  sheetLayout,
  sheetPage,
  sheetReading,
} from '@/db/schema';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import { renameCategory } from '../bank/categories';
import { createObjective } from '../bank/objectives';
import { savePassage } from '../bank/passages';
import { saveFilter } from '../bank/savedFilters';
import { openExam } from '../exam/exams';
import { askForLook, remark } from '../exam/looks';
import { addColumn, saveNumbers } from '../gradebook/bookSettings';
import { type Actor, newId } from '../house/context';
import { giveMark } from '../marking/giveMark';
import { markGroup } from '../marking/groups';
import { keepComment } from '../marking/savedComments';
import { addPerson } from '../people/roster';
import { publishReady } from '../release/publish';
import { sittingResults } from '../release/results';
import { correct, reportQuestion } from '../room/reportedQuestions';
import { beginRound } from '../round/beginRound';
import { choiceContent, must, type School, writtenContent } from './school';
import { takePaper } from './takePaper';

/** A course with one of everything in it, each named with a word that stands nowhere else. */
export type World = {
  ids: Record<Thing, string>;
  /** The log row of a change that can be taken back. */
  changeId: number;
  /** Has handed in, and whose written answer is marked and published. */
  student: Actor;
  /** Is writing, in an attempt of their own. */
  writing: Actor;
  writingAttempt: string;
  /** Marks the sitting. */
  marker: Actor;
};

/** Fills a course of a school with one of everything. @param word stands in every text of it */
export function fillWorld(school: School, word: string): World {
  const { db, teacher, courseId, bankId } = school;
  const context = () => school.as(teacher, minute);
  const person = (name: string): Actor => ({
    name: `${word} ${name}`,
    userId: must(
      addPerson(school.as(teacher), courseId, {
        name: `${word} ${name}`,
        email: `${name}.${word}@school.example`.toLowerCase(),
        role: name === 'Marker' ? 'marker' : 'student',
        studentNumber: `${word}-${name}`,
        section: `${word} section`,
      }),
    ).userId,
  });
  const [student, writing, marker] = [person('Ada'), person('Ben'), person('Marker')] as [Actor, Actor, Actor];
  const { objectiveId } = must(
    createObjective(context(), courseId, bankId, { code: word, wording: `${word} wording` }),
  );
  const { passageId } = must(
    savePassage(context(), courseId, bankId, null, { shortName: word, content: richFromText(`${word} passage`) }),
  );
  const questionId = school.question(choiceContent(`${word} choice`));
  const written = school.question(writtenContent(`${word} written`));
  const examId = school.exam([school.fixed(questionId), school.fixed(written, 3)]);
  const sittingId = school.sitting(examId, { title: `${word} sitting`, markerIds: [marker.userId] });
  const { attemptId, slotIds } = takePaper(school, sittingId, student, [null, { text: `${word} answer` }]);
  const slotId = slotIds[1] as string;
  const seen = { revision: 1, before: null, comment: `${word} comment` };
  const { markId } = must(giveMark(context(), courseId, slotId, { ...seen, points: 2 }));
  must(
    markGroup(context(), courseId, { points: 3, comment: word, answers: [{ slotId, revision: 1, before: markId }] }),
  );
  const comment = must(keepComment(context(), courseId, written, `${word} kept`));
  const filter = must(saveFilter(context(), courseId, bankId, { name: word, query: '' }));
  const { columnId } = must(addColumn(context(), courseId, { title: `${word} column`, worth: 5 }));
  must(
    saveNumbers(context(), courseId, {
      rules: { showsTotal: true },
      groups: [{ id: '', title: `${word} group`, weight: 1, counting: 'points', drop: 0 }],
    }),
  );
  const { lookId } = must(askForLook(context(), courseId, examId, { colleagueId: marker.userId, note: word }));
  const { remarkId } = must(remark(context(), courseId, examId, { aboutId: null, text: `${word} remark` }));
  must(reportQuestion(school.as(student, 20 * minute), attemptId, slotId, `${word} report`));
  const slot = db.select().from(paperSlot).where(eq(paperSlot.id, slotId)).get();
  const versionId = slot?.versionId ?? '';
  must(correct(context(), courseId, sittingId, versionId, `${word} correction`));
  const ready = must(sittingResults(context(), courseId, sittingId)).rows.filter((row) => row.result?.ready).length;
  must(publishReady(context(), courseId, sittingId, { expected: ready }));
  const own = must(startAttempt(school.as(writing, 30 * minute), sittingId));
  must(openForWriting(school.as(writing, 30 * minute), own.attemptId));
  const { sittingId: roundId } = must(
    beginRound(school.as(teacher, 40 * minute), courseId, { examId, rules: usualRound }),
  );
  must(startAttempt(school.as(student, 40 * minute), roundId));
  const { auditId } = must(renameCategory(context(), courseId, bankId, school.categoryId, `${word} category`));

  const ids = {
    note: newId(),
    remarking: newId(),
    file: newId(),
    import: newId(),
    offer: newId(),
    reply: newId(),
    session: newId(),
    upload: newId(),
  };
  const now = context().now;
  /** One of its own for each world. */
  const hash = word.charCodeAt(0).toString(16).padStart(64, '0');
  db.insert(courseNote)
    .values({ id: ids.note, courseId, about: 'course', subjectId: courseId, text: `${word} note`, createdAt: now })
    .run();
  db.insert(remarking)
    .values({
      id: ids.remarking,
      courseId,
      questionId: written,
      versionId,
      policy: 'everyone',
      reason: `${word} reason`,
      by: teacher.userId,
      at: now,
    })
    .run();
  db.insert(offer)
    .values({
      id: ids.offer,
      courseId,
      userId: writing.userId,
      role: 'marker',
      offeredAt: now,
      offeredBy: teacher.userId,
    })
    .run();
  const stored = { slotId, type: 'text/plain', bytes: 1, hash };
  db.insert(responseFile)
    .values({ ...stored, id: ids.file, name: `${word} file`, receivedAt: now })
    .run();
  db.insert(returnedFile)
    .values({ ...stored, id: ids.file, name: `${word} returned`, batch: ids.upload, at: now })
    .run();
  db.insert(gradeEntry)
    .values({ courseId, columnId, userId: student.userId, points: 1, batch: ids.import, at: now, by: teacher.userId })
    .run();
  db.insert(feedbackReply)
    .values({ id: ids.reply, sittingId, userId: student.userId, text: `${word} reply`, at: now })
    .run();
  db.insert(media).values({ hash, type: 'image/png', kind: 'picture', bytes: 1, createdAt: now }).run();
  db.insert(mediaBank).values({ hash, bankId }).run();
  const sheetPageId = newId();
  const layout = { id: `${word} layout`, sittingId, rows: [], copies: 0, createdAt: now, createdBy: teacher.userId };
  db.insert(sheetLayout)
    .values({ ...layout, plan: { version: 1, size: 100, perPage: 1, studentColumns: 0, rows: [] } })
    .run();
  const readingId = newId();
  db.insert(sheetReading).values({ id: readingId, sittingId, startedAt: now, startedBy: teacher.userId }).run();
  db.insert(sheetPage)
    .values({ id: sheetPageId, readingId, position: 0, source: `${word} scan`, rows: [], settled: {}, picture: hash })
    .run();
  const signedIn = new Date(now);
  db.insert(session)
    .values({
      id: ids.session,
      token: `${word} session`,
      userId: teacher.userId,
      expiresAt: new Date(now + day),
      createdAt: signedIn,
      updatedAt: signedIn,
    })
    .run();
  const found = <Row extends { id: unknown }>(row: Row | undefined) => String(row?.id);
  return {
    changeId: auditId,
    student,
    writing,
    writingAttempt: own.attemptId,
    marker,
    ids: {
      ...ids,
      attempt: attemptId,
      bank: bankId,
      category: school.categoryId,
      column: columnId,
      comment: comment.id,
      correction: found(db.select().from(correction).where(eq(correction.sittingId, sittingId)).get()),
      course: courseId,
      exam: examId,
      filter: filter.id,
      group: found(db.select().from(gradeGroup).where(eq(gradeGroup.courseId, courseId)).get()),
      look: lookId,
      membership: found(
        db
          .select()
          .from(membership)
          .where(and(eq(membership.courseId, courseId), eq(membership.userId, student.userId)))
          .get(),
      ),
      objective: objectiveId,
      part: must(openExam(context(), courseId, examId)).design.parts[0]?.id ?? '',
      passage: passageId,
      question: written,
      remark: remarkId,
      round: roundId,
      sheetPage: sheetPageId,
      section: found(db.select().from(section).where(eq(section.courseId, courseId)).get()),
      sitting: sittingId,
      slot: slotId,
      user: student.userId,
      version: versionId,
    },
  };
}
