import type { Metadata } from 'next';
import { type RemarkPolicy, remarkPolicies } from '@/core/marking/remark';
import { previewRemark } from '@/server/marking/remarking';
import { RemarkPage } from '@/ui/marking/RemarkPage';
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
  const policy = remarkPolicies.includes(asked.policy as RemarkPolicy) ? (asked.policy as RemarkPolicy) : 'new-key';
  const only = [asked.sitting ?? []].flat();
  const preview = orNotFound(previewRemark(await pageContext(), courseId, questionId, { policy, sittingIds: only }));
  return (
    <RemarkPage
      back={{ href: `/c/${courseId}/marking`, name: 'Marking' }}
      edit={`/c/${courseId}/banks/${preview.bankId}?question=${questionId}`}
      preview={preview}
      only={only}
      questionId={questionId}
      commands={commandsIn({ courseId }, 'applyRemark', 'takeBackRemark')}
    />
  );
}
