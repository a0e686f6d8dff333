import type { Metadata } from 'next';
import { listPeople } from '@/server/people/roster';
import { PeoplePage } from '@/ui/people/PeoplePage';
import { commandsIn } from '../../../commands';
import { orNotFound, pageContext } from '../../../request';

export const metadata: Metadata = { title: 'People' };

export default async function People({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const { people, sections } = orNotFound(listPeople(await pageContext(), courseId));
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
}
