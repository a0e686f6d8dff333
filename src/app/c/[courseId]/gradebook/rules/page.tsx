import { commandsIn, orNotFound, page } from '@/app/pages';
import { gradebook } from '@/server/gradebook/gradebook';
import { settingsHistory } from '@/server/gradebook/settingsHistory';
import { RulesPage } from '@/ui/gradebook/RulesPage';

export const metadata = { title: 'Columns and weights' };

export default page<'courseId'>((context, { courseId }) => {
  const book = orNotFound(gradebook(context, courseId));
  return (
    <RulesPage
      key={book.groups.map((group) => group.id).join()}
      base={`/c/${courseId}`}
      book={{ ...book, rows: [] }}
      history={orNotFound(settingsHistory(context, courseId))}
      commands={commandsIn({ courseId }, 'saveNumbers', 'addColumn', 'removeColumn', 'moveColumn', 'withOtherNumbers')}
    />
  );
});
