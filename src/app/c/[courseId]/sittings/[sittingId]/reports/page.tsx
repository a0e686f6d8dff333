import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { questionsOnPapers, seeReports } from '@/server/room/reportedQuestions';
import { ReportsPage } from '@/ui/room/ReportedQuestionsPage';

export const metadata = { title: 'Reported questions' };

export default page<'courseId' | 'sittingId'>((context, where) => {
  const { timeZone } = orNotFound(seeCourse(context, where.courseId));
  return (
    <ReportsPage
      base={`/c/${where.courseId}`}
      sitting={`/c/${where.courseId}/sittings/${where.sittingId}`}
      zone={timeZone}
      questions={orNotFound(seeReports(context, where.courseId, where.sittingId))}
      onPapers={orNotFound(questionsOnPapers(context, where.courseId, where.sittingId))}
      {...commandsIn(where, 'correct', 'withdrawCorrection', 'answerReports')}
    />
  );
});
