import { orNotFound, page } from '@/app/pages';
import { sheetsToRead } from '@/server/answerSheet/bringPages';
import { openSitting } from '@/server/sitting/openSitting';
import { CameraPage } from '@/ui/answerSheet/CameraPage';

export const metadata = { title: 'Sheets before the camera' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const sheets = orNotFound(sheetsToRead(context, courseId, sittingId));
  const { sitting } = orNotFound(openSitting(context, courseId, sittingId));
  const here = `/c/${courseId}/sittings/${sittingId}/answer-sheets`;
  return <CameraPage title={sitting.title} here={here} sheets={sheets} />;
});
