import type { Metadata } from 'next';
import { courseNotes, tickNote } from '@/server/people/courseNotes';
import { CourseNotes } from '@/ui/people/CourseNotes';
import { acting, orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'What needs a look' };

async function tick(courseId: string, noteId: string, done: boolean) {
  'use server';
  return acting((context) => tickNote(context, courseId, noteId, done === true));
}

export default async function Notes({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const notes = orNotFound(courseNotes(await pageContext(), courseId));
  return <CourseNotes base={`/c/${courseId}`} notes={notes} tick={tick.bind(null, courseId)} />;
}
