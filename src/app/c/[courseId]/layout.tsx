import { redirect } from 'next/navigation';
import type { ReactNode } from 'react';
import { orNotFound } from '@/app/pages';
import { journalKey } from '@/server/house/journalKey';
import { waitingForMarks } from '@/server/marking/markingQueue';
import { myCourses, seeCourse } from '@/server/people/courses';
import { TopBar } from '@/ui/desk/TopBar';
import { KeepingFor } from '@/ui/keep/KeepingFor';
import { pageWidths } from '@/ui/kit/pageWidths';
import { pageContext } from '../../request';

export default async function CourseLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ courseId: string }>;
}) {
  const { courseId } = await params;
  const context = await pageContext();
  const { role, courseName } = orNotFound(seeCourse(context, courseId));
  if (role === 'student') redirect('/my');
  return (
    <KeepingFor userId={context.actor.userId} journalKey={journalKey(context)}>
      <TopBar
        courseId={courseId}
        courseName={courseName}
        courses={myCourses(context.db, context.actor.userId)}
        role={role}
        name={context.actor.name}
        waiting={{ marking: waitingForMarks(context, courseId) }}
      />
      <main id="work" className={`mx-auto px-5 py-5 ${pageWidths.full}`}>
        {children}
      </main>
    </KeepingFor>
  );
}
