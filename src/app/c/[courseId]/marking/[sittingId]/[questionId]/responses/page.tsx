import { commandsIn, orNotFound, page } from '@/app/pages';
import { responsesTo } from '@/server/marking/responses';
import { ResponsesPage } from '@/ui/marking/ResponsesPage';

export const metadata = { title: 'Answers to a question' };

export default page<'courseId' | 'sittingId' | 'questionId'>((context, { courseId, sittingId, questionId }) => {
  const shown = orNotFound(responsesTo(context, courseId, sittingId, questionId));
  const marking = `/c/${courseId}/marking`;
  return (
    <ResponsesPage
      back={{ href: `/c/${courseId}/sittings/${sittingId}/answers`, name: 'All answers' }}
      papers={`${marking}/${sittingId}/students`}
      remark={`${marking}/questions/${questionId}`}
      page={shown}
      commands={commandsIn({ courseId, sittingId }, 'previewAccept', 'acceptAnswer', 'undoChange')}
    />
  );
});
