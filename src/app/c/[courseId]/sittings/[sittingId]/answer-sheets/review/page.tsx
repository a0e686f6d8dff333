import { redirect } from 'next/navigation';
import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeReading } from '@/server/answerSheet/seeReading';
import { openSitting } from '@/server/sitting/openSitting';
import { ReviewSheetsPage } from '@/ui/answerSheet/ReviewSheetsPage';

export const metadata = { title: 'Sheets to look through' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const here = `/c/${courseId}/sittings/${sittingId}/answer-sheets`;
  const reading = orNotFound(seeReading(context, courseId, sittingId));
  if (!reading) redirect(here);
  const { sitting } = orNotFound(openSitting(context, courseId, sittingId));
  return (
    <ReviewSheetsPage
      title={sitting.title}
      here={here}
      results={`/c/${courseId}/sittings/${sittingId}/${reading.anonymous ? 'answers' : 'results'}`}
      reading={reading}
      {...commandsIn(
        { courseId, sittingId },
        'settleSheetRow',
        'nameSheetPage',
        'leaveSheetPagesOut',
        'giveUpReading',
        'previewSheets',
        'takeSheets',
      )}
    />
  );
});
