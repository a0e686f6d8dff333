import type { Metadata } from 'next';
import { openLook } from '@/server/exam/looks';
import { LookPage } from '@/ui/exam/LookPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'A colleague’s look' };

export default async function Look({ params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const { courseId, examId } = await params;
  return (
    <LookPage
      base={`/c/${courseId}`}
      examId={examId}
      look={orNotFound(openLook(await pageContext(), courseId, examId))}
      commands={commandsIn({ courseId, examId }, 'askForLook', 'withdrawLook', 'remark', 'settleRemark', 'signOff')}
    />
  );
}
