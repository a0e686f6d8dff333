import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { changeCourse, myCourses, seeCourse } from '@/server/people/courses';
import { CourseFields } from '@/ui/people/CourseFields';
import { acting, orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'The course' };

async function change(courseId: string, input: unknown) {
  'use server';
  return acting((context) => changeCourse(context, courseId, input));
}

export default async function CoursePage({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const context = await pageContext();
  const { courseName, timeZone, role } = orNotFound(seeCourse(context, courseId));
  if (role !== 'instructor') notFound();
  const term = myCourses(context.db, context.actor.userId).find((course) => course.id === courseId)?.term ?? '';
  return (
    <div className="max-w-md">
      <CourseFields
        title="The course"
        fields={{ name: courseName, term, timeZone }}
        act="Save"
        submit={change.bind(null, courseId)}
        back={`/c/${courseId}/people`}
        onward={`/c/${courseId}/people`}
      />
    </div>
  );
}
