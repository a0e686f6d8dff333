import type { Metadata } from 'next';
import { printState } from '@/server/print/classPrint';
import { openSitting } from '@/server/sitting/openSitting';
import { PrintPage } from '@/ui/sitting/PrintPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Papers to print' };

export default async function Print({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const context = await pageContext();
  const state = orNotFound(printState(context, courseId, sittingId));
  const { sitting, audience } = orNotFound(openSitting(context, courseId, sittingId));
  const base = `/c/${courseId}/sittings/${sittingId}`;
  return (
    <PrintPage
      sitting={{ href: base, title: sitting.title, students: audience.length }}
      file={`${base}/print/pdf`}
      state={state}
      {...commandsIn({ courseId, sittingId }, 'printSitting', 'printState', 'cancelPrint')}
    />
  );
}
