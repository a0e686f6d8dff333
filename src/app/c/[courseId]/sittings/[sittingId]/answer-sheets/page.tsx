import { commandsIn, orNotFound, page } from '@/app/pages';
import { sheetsToRead } from '@/server/answerSheet/bringPages';
import { answerSheetsPrint } from '@/server/answerSheet/printAnswerSheets';
import { seeReading } from '@/server/answerSheet/seeReading';
import { filledState } from '@/server/answerSheet/standIn';
import { openSitting } from '@/server/sitting/openSitting';
import { AnswerSheetsPage } from '@/ui/answerSheet/AnswerSheetsPage';

export const metadata = { title: 'Answer sheets' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const state = orNotFound(answerSheetsPrint(context, courseId, sittingId));
  const { sitting, audience, purpose } = orNotFound(openSitting(context, courseId, sittingId));
  const reading = orNotFound(seeReading(context, courseId, sittingId));
  const base = `/c/${courseId}/sittings/${sittingId}`;
  return (
    <AnswerSheetsPage
      sitting={{
        href: base,
        title: sitting.title,
        students: audience.length,
        anonymous: sitting.anonymous,
        countsTakingPart: purpose.counts === 'taking-part',
      }}
      here={`${base}/answer-sheets`}
      state={state}
      filled={orNotFound(filledState(context, courseId, sittingId))}
      sheets={orNotFound(sheetsToRead(context, courseId, sittingId))}
      reading={reading && { pages: reading.pages.length, said: reading.said }}
      {...commandsIn(
        { courseId, sittingId },
        'lookAtSheets',
        'printAnswerSheets',
        'answerSheetsPrint',
        'cancelAnswerSheets',
        'fillAnswerSheets',
        'filledState',
        'cancelFilling',
      )}
    />
  );
});
