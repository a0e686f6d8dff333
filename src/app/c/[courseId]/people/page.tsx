import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { listPeople } from '@/server/people/roster';
import { PeoplePage } from '@/ui/people/PeoplePage';

export const metadata = { title: 'People' };

export default page<'courseId'>((context, { courseId }) => {
  const { courseName, timeZone } = orNotFound(seeCourse(context, courseId));
  return (
    <PeoplePage
      base={`/c/${courseId}/people`}
      course={courseName}
      timeZone={timeZone}
      all={orNotFound(listPeople(context, courseId))}
      commands={commandsIn(
        { courseId },
        'addPerson',
        'previewRoster',
        'addRoster',
        'changePerson',
        'typePeople',
        'removePerson',
        'bringBack',
        'inviteAgain',
        'letTryAgain',
        'offerAgain',
        'withdrawOffer',
        'setNameOrder',
        'undoChange',
      )}
    />
  );
});
