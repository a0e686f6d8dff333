import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { seeReports } from '@/server/room/reportedQuestions';
import { ReportsPage } from '@/ui/room/ReportedQuestionsPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Reported questions' };

type Where = { courseId: string; sittingId: string };

export default async function Reports({ params }: { params: Promise<Where> }) {
  const where = await params;
  const context = await pageContext();
  const { timeZone } = orNotFound(seeCourse(context, where.courseId));
  return (
    <ReportsPage
      base={`/c/${where.courseId}`}
      sitting={`/c/${where.courseId}/sittings/${where.sittingId}`}
      zone={timeZone}
      questions={orNotFound(seeReports(context, where.courseId, where.sittingId))}
      {...commandsIn(where, 'correct', 'withdrawCorrection', 'answerReports')}
    />
  );
}
