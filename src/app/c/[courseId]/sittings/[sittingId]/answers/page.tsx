import { orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { sittingAnswers } from '@/server/release/answerTally';
import { PageFrame, PageTitle } from '@/ui/kit/Page';
import { PaperDocument } from '@/ui/kit/PaperDocument';
import { pageWidths } from '@/ui/kit/pageWidths';
import { AnswerTallies } from '@/ui/release/AnswerTallies';
import { ResultViews } from '@/ui/release/ResultViews';

export const metadata = { title: 'Answers' };

export default page<'courseId' | 'sittingId'>((context, { courseId, sittingId }) => {
  const { role } = orNotFound(seeCourse(context, courseId));
  const here = `/c/${courseId}/sittings/${sittingId}`;
  const answers = orNotFound(sittingAnswers(context, courseId, sittingId));
  return (
    <PageFrame>
      <PageTitle
        title={`Results: ${answers.title}`}
        back={
          answers.anonymous ? { href: `${here}/results`, name: 'Results' } : { href: here, name: 'Rules and students' }
        }
      />
      {!answers.anonymous && <ResultViews here={here} now="answers" />}
      {answers.document && <PaperDocument {...answers.document} />}
      <div className={pageWidths.sheet}>
        <AnswerTallies
          answers={answers}
          each={role === 'instructor' && !answers.anonymous ? `/c/${courseId}/marking/${sittingId}` : undefined}
        />
      </div>
    </PageFrame>
  );
});
