import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { answerReports, correct, seeReports, withdrawCorrection } from '@/server/sitting/reports';
import { ReportsPage } from '@/ui/room/ReportsPage';
import { acting, orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Reported questions' };

type Where = { courseId: string; sittingId: string };

async function correctOn({ courseId, sittingId }: Where, versionId: string, text: string) {
  'use server';
  return acting((context) => correct(context, courseId, sittingId, String(versionId), String(text)));
}

async function takeBack({ courseId, sittingId }: Where, correctionId: string) {
  'use server';
  return acting((context) => withdrawCorrection(context, courseId, sittingId, String(correctionId)));
}

async function answerAll({ courseId, sittingId }: Where, versionId: string, text: string) {
  'use server';
  return acting((context) => answerReports(context, courseId, sittingId, String(versionId), String(text)));
}

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
      correct={correctOn.bind(null, where)}
      takeBack={takeBack.bind(null, where)}
      answer={answerAll.bind(null, where)}
    />
  );
}
