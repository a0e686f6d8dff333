import type { Metadata } from 'next';
import { listBanks } from '@/server/bank/banks';
import { objectivesOf } from '@/server/bank/objectives';
import { ownPoints } from '@/server/bank/points';
import { BankSettings } from '@/ui/bank/BankSettings';
import { orNotFound, pageContext } from '../../../../../request';
import { addObjective, setPoints } from '../../actions';

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
      objectives={objectivesOf(context.db, bankId)}
      setPoints={setPoints.bind(null, courseId, bankId)}
      addObjective={addObjective.bind(null, courseId, bankId)}
    />
  );
}
