import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { listPeople } from '@/server/people/roster';
import { PeoplePage } from '@/ui/people/PeoplePage';

export const metadata = { title: 'People' };

export default page<'courseId'>((context, { courseId }) => {
  const { people, sections } = orNotFound(listPeople(context, courseId));
  return (
    <PeoplePage
      base={`/c/${courseId}/people`}
      course={orNotFound(seeCourse(context, courseId)).courseName}
      people={people}
      sections={sections}
      commands={commandsIn(
        { courseId },
        'addPerson',
        'previewRoster',
        'addRoster',
        'changePerson',
        'removePerson',
        'inviteAgain',
        'undoChange',
      )}
    />
  );
});
