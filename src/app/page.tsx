import { redirect } from 'next/navigation';
import { myCourses } from '@/server/people/courses';
import { pageContext } from './request';

/** Sends everyone to where their work is. */
export default async function Home() {
  const { db, actor } = await pageContext();
  const courses = myCourses(db, actor.userId);
  const working = courses.find((course) => course.role !== 'student');
  redirect(working ? `/c/${working.id}` : '/my');
}
