import type { Metadata } from 'next';
import { bankHealth } from '@/server/bank/health';
import { HealthPage } from '@/ui/bank/HealthPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Health of the bank' };

export default async function Health({ params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const { courseId, bankId } = await params;
  const health = orNotFound(bankHealth(await pageContext(), courseId, bankId));
  return (
    <HealthPage
      base={`/c/${courseId}/banks/${bankId}`}
      health={health}
      commands={commandsIn({ courseId, bankId }, 'editMany', 'retireQuestion', 'undoChange')}
    />
  );
}
