import type { Metadata } from 'next';
import { createCourse } from '@/server/people/courses';
import { NewCourse } from '@/ui/people/NewCourse';
import { pageContext } from '../request';

export const metadata: Metadata = { title: 'A new course' };

async function create(input: unknown) {
  'use server';
  return createCourse(await pageContext(), input);
}

export default async function NewCoursePage() {
  await pageContext();
  return (
    <main className="mx-auto max-w-md px-4 py-12">
      <NewCourse create={create} />
    </main>
  );
}
