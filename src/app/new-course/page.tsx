import type { Metadata } from 'next';
import { createCourse } from '@/server/people/courses';
import { CourseFields } from '@/ui/people/CourseFields';
import { acting, pageContext } from '../request';

export const metadata: Metadata = { title: 'A new course' };

async function create(input: unknown) {
  'use server';
  return acting((context) => createCourse(context, input));
}

export default async function NewCoursePage() {
  await pageContext();
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      <CourseFields
        title="A new course"
        fields={{ name: '', term: '', timeZone: 'UTC' }}
        act="Begin the course"
        submit={create}
        back="/"
      />
    </main>
  );
}
