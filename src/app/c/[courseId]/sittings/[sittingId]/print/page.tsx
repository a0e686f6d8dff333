import { commandsIn, orNotFound, page } from '@/app/pages';
import { printState } from '@/server/print/classPrint';
import { openSitting } from '@/server/sitting/openSitting';
import { PrintPage } from '@/ui/sitting/PrintPage';

export const metadata = { title: 'Papers to print' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const state = orNotFound(printState(context, courseId, sittingId));
  const { sitting, audience } = orNotFound(openSitting(context, courseId, sittingId));
  const base = `/c/${courseId}/sittings/${sittingId}`;
  return (
    <PrintPage
      sitting={{ href: base, title: sitting.title, students: audience.length, anonymous: sitting.anonymous }}
      file={`${base}/print/pdf`}
      state={state}
      {...commandsIn({ courseId, sittingId }, 'printSitting', 'printState', 'cancelPrint')}
    />
  );
});
