import type { Metadata } from 'next';
import { openLook } from '@/server/exam/looks';
import { LookPage } from '@/ui/exam/LookPage';
import { orNotFound, pageContext } from '../../../../../request';
import { ask, putRemark, settle, sign, withdraw } from './actions';

export const metadata: Metadata = { title: 'A colleague’s look' };

export default async function Look({ params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const { courseId, examId } = await params;
  return (
    <LookPage
      base={`/c/${courseId}`}
      examId={examId}
      look={orNotFound(openLook(await pageContext(), courseId, examId))}
      commands={{
        ask: ask.bind(null, courseId, examId),
        withdraw: withdraw.bind(null, courseId, examId),
        remark: putRemark.bind(null, courseId, examId),
        settle: settle.bind(null, courseId, examId),
        signOff: sign.bind(null, courseId, examId),
      }}
    />
  );
}
