import { commandsIn, orNotFound, page } from '@/app/pages';
import { markedPaper } from '@/server/marking/responses';
import { MarkedPaperPage } from '@/ui/marking/MarkedPaperPage';

export const metadata = { title: 'A marked paper' };

export default page<'courseId' | 'sittingId' | 'userId'>((context, { courseId, sittingId, userId }, asked) => {
  const attempt = Number.parseInt(asked.attempt ?? '', 10);
  const paper = orNotFound(markedPaper(context, courseId, sittingId, userId, Number.isNaN(attempt) ? null : attempt));
  const marking = `/c/${courseId}/marking/${sittingId}`;
  return (
    <MarkedPaperPage
      key={paper.attemptId}
      back={{ href: `/c/${courseId}/sittings/${sittingId}/results`, name: 'Results' }}
      here={`${marking}/students/${userId}`}
      responses={marking}
      paper={paper}
      commands={commandsIn({ courseId }, 'adjustMark', 'adjustPaper')}
    />
  );
});
