import type { Metadata } from 'next';
import { type RemarkingPolicy, remarkingPolicies } from '@/core/marking/remarkingPolicy';
import { previewRemarking } from '@/server/marking/remarking';
import { RemarkingPage } from '@/ui/marking/RemarkingPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Mark anew' };

export default async function Remark({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; questionId: string }>;
  searchParams: Promise<{ policy?: string; sitting?: string | string[] }>;
}) {
  const { courseId, questionId } = await params;
  const asked = await searchParams;
  const policy = remarkingPolicies.includes(asked.policy as RemarkingPolicy)
    ? (asked.policy as RemarkingPolicy)
    : 'new-key';
  const only = [asked.sitting ?? []].flat();
  const preview = orNotFound(previewRemarking(await pageContext(), courseId, questionId, { policy, sittingIds: only }));
  return (
    <RemarkingPage
      back={{ href: `/c/${courseId}/marking`, name: 'Marking' }}
      edit={`/c/${courseId}/banks/${preview.bankId}?question=${questionId}`}
      preview={preview}
      only={only}
      questionId={questionId}
      commands={commandsIn({ courseId }, 'applyRemarking', 'undoChange')}
    />
  );
}
