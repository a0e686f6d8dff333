import type { Metadata } from 'next';
import { answersTogether } from '@/server/marking/groups';
import { GroupsPage } from '@/ui/marking/GroupsPage';
import { commandsIn } from '../../../../../../commands';
import { orNotFound, pageContext } from '../../../../../../request';

export const metadata: Metadata = { title: 'Alike answers together' };

/** How alike answers are that stand together unless the slider says otherwise. */
const usual = 0.8;

export default async function Together({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; sittingId: string; questionId: string }>;
  searchParams: Promise<{ least?: string }>;
}) {
  const { courseId, sittingId, questionId } = await params;
  const least = Number((await searchParams).least ?? usual);
  const together = orNotFound(answersTogether(await pageContext(), courseId, sittingId, questionId, least));
  return (
    <GroupsPage
      back={{ href: `/c/${courseId}/marking/${sittingId}/${questionId}`, name: 'One by one' }}
      together={together}
      commands={commandsIn({ courseId }, 'markGroup', 'takeBackMarks')}
    />
  );
}
