import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { sittingAnswers } from '@/server/release/answerTally';
import { PageTitle } from '@/ui/kit/Page';
import { PaperDocument } from '@/ui/kit/PaperDocument';
import { AnswerTallies } from '@/ui/release/AnswerTallies';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Answers' };

export default async function Answers({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  const answers = orNotFound(sittingAnswers(context, courseId, sittingId));
  return (
    <div className="max-w-[900px]">
      <PageTitle
        title={`Answers: ${answers.title}`}
        back={{ href: `/c/${courseId}/sittings/${sittingId}/results`, name: 'Results' }}
      />
      {answers.document && <PaperDocument {...answers.document} />}
      <AnswerTallies
        answers={answers}
        each={role === 'instructor' && !answers.anonymous ? `/c/${courseId}/marking/${sittingId}` : undefined}
      />
    </div>
  );
}
