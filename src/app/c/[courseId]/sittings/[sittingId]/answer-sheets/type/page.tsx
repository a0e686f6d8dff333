import { commandsIn, orNotFound, page } from '@/app/pages';
import { sheetsToRead } from '@/server/answerSheet/bringPages';
import { openSitting } from '@/server/sitting/openSitting';
import { TypeSheetsPage } from '@/ui/answerSheet/TypeSheetsPage';

export const metadata = { title: 'Answers to type in' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  orNotFound(sheetsToRead(context, courseId, sittingId));
  const { sitting } = orNotFound(openSitting(context, courseId, sittingId));
  return (
    <TypeSheetsPage
      title={sitting.title}
      here={`/c/${courseId}/sittings/${sittingId}/answer-sheets`}
      {...commandsIn({ courseId, sittingId }, 'beginTyping', 'typeSheet')}
    />
  );
});
