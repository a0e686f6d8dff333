import type { Metadata } from 'next';
import { CourseFields } from '@/ui/people/CourseFields';
import { commandsIn } from '../commands';
import { pageContext } from '../request';

export const metadata: Metadata = { title: 'A new course' };

export default async function NewCoursePage() {
  await pageContext();
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      <CourseFields
        title="A new course"
        fields={{ name: '', term: '', timeZone: 'UTC' }}
        act="Begin the course"
        submit={commandsIn({}, 'createCourse').createCourse}
        back="/"
      />
    </main>
  );
}
