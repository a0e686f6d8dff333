import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { listSittings } from '@/server/sitting/sittings';
import { SittingList } from '@/ui/sitting/SittingList';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'Sittings' };

export default async function Sittings({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const context = await pageContext();
  const { timeZone, role } = orNotFound(seeCourse(context, courseId));
  return (
    <SittingList
      base={`/c/${courseId}`}
      timeZone={timeZone}
      mayChange={role === 'instructor'}
      sittings={orNotFound(listSittings(context, courseId))}
    />
  );
}
