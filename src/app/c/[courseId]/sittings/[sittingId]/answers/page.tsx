import type { Metadata } from 'next';
import { sittingAnswers } from '@/server/release/answerTally';
import { PageTitle } from '@/ui/kit/Page';
import { PaperDocument } from '@/ui/kit/PaperDocument';
import { AnswerTallies } from '@/ui/release/AnswerTallies';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Answers' };

export default async function Answers({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const answers = orNotFound(sittingAnswers(await pageContext(), courseId, sittingId));
  return (
    <div className="max-w-[900px]">
      <PageTitle
        title={`Answers: ${answers.title}`}
        back={{ href: `/c/${courseId}/sittings/${sittingId}/results`, name: 'Results' }}
      />
      {answers.document && <PaperDocument {...answers.document} />}
      <AnswerTallies answers={answers} />
    </div>
  );
}
