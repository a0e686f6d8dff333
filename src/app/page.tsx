import { redirect } from 'next/navigation';
import { page } from '@/app/pages';
import { myCourses } from '@/server/people/courses';

/** Sends everyone to where their work is. */
export default page((context) => {
  const { db, actor } = context;
  const courses = myCourses(db, actor.userId);
  const working = courses.find((course) => course.role !== 'student');
  redirect(working ? `/c/${working.id}` : '/my');
});
