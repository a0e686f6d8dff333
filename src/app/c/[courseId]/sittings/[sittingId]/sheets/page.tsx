import { commandsIn, orNotFound, page } from '@/app/pages';
import { sheetsPage } from '@/server/gradebook/feedbackSheets';
import { FeedbackSheetsPage } from '@/ui/gradebook/FeedbackSheetsPage';

export const metadata = { title: 'Feedback sheets' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const shown = orNotFound(sheetsPage(context, courseId, sittingId));
  const here = `/c/${courseId}/sittings/${sittingId}`;
  return (
    <FeedbackSheetsPage
      back={`${here}/results`}
      file={`${here}/sheets/archive`}
      page={shown}
      commands={commandsIn(
        { courseId, sittingId },
        'saveLayout',
        'sampleSheet',
        'printFeedback',
        'sheetsState',
        'cancelSheets',
      )}
    />
  );
});
