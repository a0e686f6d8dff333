import type { Metadata } from 'next';
import { sheetsPage } from '@/server/gradebook/feedbackSheets';
import { FeedbackSheetsPage } from '@/ui/gradebook/FeedbackSheetsPage';
import { orNotFound, pageContext } from '../../../../../request';
import { endSheets, keepLayout, printSheets, sample, sheetsProgress } from './actions';

export const metadata: Metadata = { title: 'Feedback sheets' };

export default async function Sheets({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const page = orNotFound(sheetsPage(await pageContext(), courseId, sittingId));
  const here = `/c/${courseId}/sittings/${sittingId}`;
  return (
    <FeedbackSheetsPage
      back={`${here}/results`}
      file={`${here}/sheets/archive`}
      page={page}
      commands={{
        save: keepLayout.bind(null, courseId),
        sample: sample.bind(null, courseId, sittingId),
        print: printSheets.bind(null, courseId, sittingId),
        progress: sheetsProgress.bind(null, courseId, sittingId),
        end: endSheets.bind(null, courseId, sittingId),
      }}
    />
  );
}
