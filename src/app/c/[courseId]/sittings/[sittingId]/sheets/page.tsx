import type { Metadata } from 'next';
import { sheetsPage } from '@/server/gradebook/feedbackSheets';
import { FeedbackSheetsPage } from '@/ui/gradebook/FeedbackSheetsPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

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
      commands={commandsIn(
        { courseId, sittingId },
        'saveLayout',
        'sampleSheet',
        'printFeedback',
        'sheetsState',
        'cancelSheets',
      )}
    />
  );
}
