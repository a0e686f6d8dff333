import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Db } from '@/db/client';
import { courseNote, exam, sitting } from '@/db/schema';
import { command, query } from '../house/useCase';
import { toCourse } from './toCourse';

export type CourseNoteRow = {
  id: string;
  about: 'course' | 'exam' | 'sitting';
  subjectId: string;
  /** What the exam or sitting is called. */
  title: string;
  text: string;
  done: boolean;
};

/** What needs a look since the course was begun from an earlier one: what is open first. */
export const courseNotes = query({
  admits: toCourse('people.change'),
  does({ courseId, courseName, context }): Result<CourseNoteRow[]> {
    const rows = context.db
      .select({ note: courseNote, exam: exam.title, sitting: sitting.title })
      .from(courseNote)
      .leftJoin(exam, eq(exam.id, courseNote.subjectId))
      .leftJoin(sitting, eq(sitting.id, courseNote.subjectId))
      .where(eq(courseNote.courseId, courseId))
      .all();
    return ok(
      rows
        .map(({ note, exam: examTitle, sitting: sittingTitle }) => ({
          id: note.id,
          about: note.about,
          subjectId: note.subjectId,
          title: sittingTitle ?? examTitle ?? courseName,
          text: note.text,
          done: note.doneAt !== null,
        }))
        .sort((a, b) => Number(a.done) - Number(b.done)),
    );
  },
});

/** How many of them are open. */
export const openNotes = (db: Db, courseId: string): number =>
  db
    .select({ id: courseNote.id })
    .from(courseNote)
    .where(and(eq(courseNote.courseId, courseId), isNull(courseNote.doneAt)))
    .all().length;

/** Ticks one of them off, or takes the tick back. */
export const tickNote = command({
  admits: toCourse('people.change'),
  takes: [id('note'), z.boolean()],
  logs: 'course.note',
  does({ tx, now, courseId, record }, noteId, done): Result<null> {
    const { changes } = tx
      .update(courseNote)
      .set({ doneAt: done ? now : null })
      .where(and(eq(courseNote.id, noteId), eq(courseNote.courseId, courseId)))
      .run();
    if (changes === 0) return notFound('note');
    record({ subjectId: noteId, detail: { done } });
    return ok(null);
  },
});
