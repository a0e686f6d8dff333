import { commandsIn, orNotFound, page } from '@/app/pages';
import { bankLabels } from '@/server/bank/bankLabels';
import { listBanks } from '@/server/bank/banks';
import { ownPoints } from '@/server/bank/points';
import { BankSettings } from '@/ui/bank/BankSettings';

export const metadata = { title: 'Points and objectives' };

export default page<'courseId' | 'bankId'>((context, { courseId, bankId }) => {
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
});
