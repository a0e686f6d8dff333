import type { Metadata } from 'next';
import { gradebook } from '@/server/gradebook/gradebook';
import { RulesPage } from '@/ui/gradebook/RulesPage';
import { orNotFound, pageContext } from '../../../../request';
import { newColumn, placeColumn, setNumbers, takeColumn, tryOther } from '../actions';

export const metadata: Metadata = { title: 'Columns and weights' };

export default async function Rules({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const book = orNotFound(gradebook(await pageContext(), courseId));
  return (
    <RulesPage
      key={book.groups.map((group) => group.id).join()}
      base={`/c/${courseId}`}
      book={{ ...book, rows: [] }}
      commands={{
        keep: setNumbers.bind(null, courseId),
        newColumn: newColumn.bind(null, courseId),
        takeColumn: takeColumn.bind(null, courseId),
        placeColumn: placeColumn.bind(null, courseId),
        tryOther: tryOther.bind(null, courseId),
      }}
    />
  );
}
