import type { Metadata } from 'next';
import { listPeople } from '@/server/people/roster';
import { PeoplePage } from '@/ui/people/PeoplePage';
import { orNotFound, pageContext } from '../../../request';
import { addList, addOne, changeOne, previewList, removeOne, undo } from './actions';

export const metadata: Metadata = { title: 'People' };

export default async function People({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const { people, sections } = orNotFound(listPeople(await pageContext(), courseId));
  return (
    <PeoplePage
      base={`/c/${courseId}/people`}
      people={people}
      sections={sections}
      commands={{
        addOne: addOne.bind(null, courseId),
        previewList: previewList.bind(null, courseId),
        addList: addList.bind(null, courseId),
        changeOne: changeOne.bind(null, courseId),
        removeOne: removeOne.bind(null, courseId),
        undo: undo.bind(null, courseId),
      }}
    />
  );
}
