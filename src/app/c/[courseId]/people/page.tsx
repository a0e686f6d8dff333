import { commandsIn, orNotFound, page } from '@/app/pages';
import { listPeople } from '@/server/people/roster';
import { PeoplePage } from '@/ui/people/PeoplePage';

export const metadata = { title: 'People' };

export default page<'courseId'>((context, { courseId }) => {
  const { people, sections } = orNotFound(listPeople(context, courseId));
  return (
    <PeoplePage
      base={`/c/${courseId}/people`}
      people={people}
      sections={sections}
      commands={commandsIn(
        { courseId },
        'addPerson',
        'previewRoster',
        'addRoster',
        'changePerson',
        'removePerson',
        'undoChange',
      )}
    />
  );
});
