import { commandsIn, orNotFound, page } from '@/app/pages';
import { secondMarkingOf } from '@/server/marking/settle';
import { SecondMarkingPage } from '@/ui/marking/SecondMarkingPage';

export const metadata = { title: 'Second marker' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const shown = orNotFound(secondMarkingOf(context, courseId, sittingId));
  return (
    <SecondMarkingPage
      back={{ href: `/c/${courseId}/marking`, name: 'Marking' }}
      page={shown}
      commands={commandsIn({ courseId, sittingId }, 'setSecondMarking', 'settle')}
    />
  );
});
