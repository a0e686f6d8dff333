import { commandsIn, orNotFound, page } from '@/app/pages';
import { bankHealth } from '@/server/bank/health';
import { HealthPage } from '@/ui/bank/HealthPage';

export const metadata = { title: 'Health of the bank' };

export default page<'courseId' | 'bankId'>((context, { courseId, bankId }) => {
  const health = orNotFound(bankHealth(context, courseId, bankId));
  return (
    <HealthPage
      base={`/c/${courseId}/banks/${bankId}`}
      health={health}
      commands={commandsIn({ courseId, bankId }, 'editMany', 'retireQuestion', 'undoChange')}
    />
  );
});
