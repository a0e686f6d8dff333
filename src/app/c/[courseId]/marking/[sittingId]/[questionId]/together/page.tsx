import { commandsIn, orNotFound, page } from '@/app/pages';
import { answersTogether } from '@/server/marking/groups';
import { GroupsPage } from '@/ui/marking/GroupsPage';

export const metadata = { title: 'Alike answers together' };

/** How alike answers are that stand together unless the slider says otherwise. */
const usual = 0.8;

export default page<'courseId' | 'sittingId' | 'questionId'>((context, { courseId, sittingId, questionId }, asked) => {
  const least = Number(asked.least ?? usual);
  const together = orNotFound(answersTogether(context, courseId, sittingId, questionId, least));
  return (
    <GroupsPage
      back={{ href: `/c/${courseId}/marking/${sittingId}/${questionId}`, name: 'One by one' }}
      together={together}
      commands={commandsIn({ courseId }, 'markGroup', 'undoChange')}
    />
  );
});
