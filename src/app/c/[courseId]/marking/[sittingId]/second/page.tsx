import type { Metadata } from 'next';
import { secondMarkingOf } from '@/server/marking/settle';
import { SecondMarkingPage } from '@/ui/marking/SecondMarkingPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Second marker' };

export default async function Second({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const page = orNotFound(secondMarkingOf(await pageContext(), courseId, sittingId));
  return (
    <SecondMarkingPage
      back={{ href: `/c/${courseId}/marking`, name: 'Marking' }}
      page={page}
      commands={commandsIn({ courseId, sittingId }, 'setSecondMarking', 'settle')}
    />
  );
}
