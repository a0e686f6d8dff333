import { orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { listSittings } from '@/server/sitting/sittings';
import { SittingList } from '@/ui/sitting/SittingList';

export const metadata = { title: 'Sittings' };

export default page<'courseId'>((context, { courseId }) => {
  const { timeZone, role } = orNotFound(seeCourse(context, courseId));
  return (
    <SittingList
      base={`/c/${courseId}`}
      timeZone={timeZone}
      mayChange={role === 'instructor'}
      sittings={orNotFound(listSittings(context, courseId))}
    />
  );
});
