import type { Metadata } from 'next';
import { courseNotes } from '@/server/people/courseNotes';
import { CourseNotes } from '@/ui/people/CourseNotes';
import { commandsIn } from '../../../../commands';
import { orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'What needs a look' };

export default async function Notes({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const notes = orNotFound(courseNotes(await pageContext(), courseId));
  return <CourseNotes base={`/c/${courseId}`} notes={notes} {...commandsIn({ courseId }, 'tickNote')} />;
}
