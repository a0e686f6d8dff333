import { commandsIn, orNotFound, page } from '@/app/pages';
import { remarkingOutcomes } from '@/server/marking/remarking';
import { RemarkingPage } from '@/ui/marking/RemarkingPage';

export const metadata = { title: 'Mark anew' };

export default page<'courseId' | 'questionId'>((context, { courseId, questionId }, asked) => {
  const only = (asked.sittings ?? '').split(',').filter(Boolean);
  const outcomes = orNotFound(remarkingOutcomes(context, courseId, questionId, only));
  return (
    <RemarkingPage
      base={`/c/${courseId}`}
      back={{ href: `/c/${courseId}/marking`, name: 'Marking' }}
      edit={`/c/${courseId}/banks/${outcomes.bankId}?question=${questionId}`}
      page={outcomes}
      only={only}
      questionId={questionId}
      commands={commandsIn({ courseId }, 'applyRemarking', 'undoChange', 'publishReady')}
    />
  );
});
