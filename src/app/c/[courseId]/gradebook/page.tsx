import { commandsIn, orNotFound, page } from '@/app/pages';
import { gradebook } from '@/server/gradebook/gradebook';
import { GradebookPage } from '@/ui/gradebook/GradebookPage';

export const metadata = { title: 'Gradebook' };

export default page<'courseId'>((context, { courseId }) => {
  return (
    <GradebookPage
      base={`/c/${courseId}`}
      book={orNotFound(gradebook(context, courseId))}
      commands={commandsIn(
        { courseId },
        'cellHistory',
        'enterCell',
        'enterCells',
        'undoChange',
        'explained',
        'gradebookSince',
        'setNameOrder',
      )}
    />
  );
});
