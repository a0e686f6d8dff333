import { commandsIn, orNotFound, page } from '@/app/pages';
import { type RemarkingPolicy, remarkingPolicies } from '@/core/marking/remarkingPolicy';
import { previewRemarking } from '@/server/marking/remarking';
import { RemarkingPage } from '@/ui/marking/RemarkingPage';

export const metadata = { title: 'Mark anew' };

export default page<'courseId' | 'questionId'>((context, { courseId, questionId }, asked) => {
  const policy = remarkingPolicies.includes(asked.policy as RemarkingPolicy)
    ? (asked.policy as RemarkingPolicy)
    : 'new-key';
  const only = [asked.sitting ?? []].flat();
  const preview = orNotFound(previewRemarking(context, courseId, questionId, { policy, sittingIds: only }));
  return (
    <RemarkingPage
      back={{ href: `/c/${courseId}/marking`, name: 'Marking' }}
      edit={`/c/${courseId}/banks/${preview.bankId}?question=${questionId}`}
      preview={preview}
      only={only}
      questionId={questionId}
      commands={commandsIn({ courseId }, 'applyRemarking', 'undoChange')}
    />
  );
});
