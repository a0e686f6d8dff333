import type { Metadata } from 'next';
import { bankLabels } from '@/server/bank/bankLabels';
import { listBanks } from '@/server/bank/banks';
import { ownPoints } from '@/server/bank/points';
import { BankSettings } from '@/ui/bank/BankSettings';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Points and objectives' };

export default async function Settings({ params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const { courseId, bankId } = await params;
  const context = await pageContext();
  const points = orNotFound(ownPoints(context, courseId, bankId));
  const bank = orNotFound(listBanks(context, courseId)).find((one) => one.id === bankId);
  return (
    <BankSettings
      base={`/c/${courseId}/banks/${bankId}`}
      bankName={bank?.name ?? ''}
      points={points}
      objectives={orNotFound(bankLabels(context, courseId, bankId)).objectives}
      {...commandsIn({ courseId, bankId }, 'setUsualPoints', 'createObjective')}
    />
  );
}
