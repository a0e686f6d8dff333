import type { Metadata } from 'next';
import { gradebook } from '@/server/gradebook/gradebook';
import { RulesPage } from '@/ui/gradebook/RulesPage';
import { commandsIn } from '../../../../commands';
import { orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'Columns and weights' };

export default async function Rules({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const book = orNotFound(gradebook(await pageContext(), courseId));
  return (
    <RulesPage
      key={book.groups.map((group) => group.id).join()}
      base={`/c/${courseId}`}
      book={{ ...book, rows: [] }}
      commands={commandsIn({ courseId }, 'saveNumbers', 'addColumn', 'removeColumn', 'moveColumn', 'withOtherNumbers')}
    />
  );
}
