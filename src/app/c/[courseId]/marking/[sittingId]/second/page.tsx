import type { Metadata } from 'next';
import { secondMarkingOf } from '@/server/marking/settle';
import { SecondMarkingPage } from '@/ui/marking/SecondMarkingPage';
import { orNotFound, pageContext } from '../../../../../request';
import { secondRule, settleMarks } from '../../actions';

export const metadata: Metadata = { title: 'Second marker' };

export default async function Second({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const page = orNotFound(secondMarkingOf(await pageContext(), courseId, sittingId));
  return (
    <SecondMarkingPage
      back={{ href: `/c/${courseId}/marking`, name: 'Marking' }}
      page={page}
      commands={{ set: secondRule.bind(null, courseId, sittingId), settle: settleMarks.bind(null, courseId) }}
    />
  );
}
