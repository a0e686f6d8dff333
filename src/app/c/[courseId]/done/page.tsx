import { commandsIn, orNotFound, page } from '@/app/pages';
import { doneLately } from '@/server/doneLately';
import { seeCourse } from '@/server/people/courses';
import { DoneLatelyPage } from '@/ui/desk/DoneLatelyPage';

export const metadata = { title: 'Done lately' };

export default page<'courseId'>((context, { courseId }, { within }) => {
  const { timeZone } = orNotFound(seeCourse(context, courseId));
  return (
    <DoneLatelyPage
      base={`/c/${courseId}`}
      timeZone={timeZone}
      {...orNotFound(doneLately(context, courseId, within ?? null))}
      {...commandsIn({ courseId }, 'undoChange')}
    />
  );
});
