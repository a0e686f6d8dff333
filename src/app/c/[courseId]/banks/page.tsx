import { redirect } from 'next/navigation';
import { commandsIn, orNotFound, page } from '@/app/pages';
import { banksElsewhere, listBanks } from '@/server/bank/banks';
import { BanksPage } from '@/ui/bank/BanksPage';

export const metadata = { title: 'Banks of the course' };

/** Leads straight into the first bank, unless the list itself is wanted. */
export default page<'courseId'>((context, { courseId }, { list }) => {
  const banks = orNotFound(listBanks(context, courseId));
  if (banks[0] && list !== 'yes') redirect(`/c/${courseId}/banks/${banks[0].id}`);
  return (
    <BanksPage
      base={`/c/${courseId}`}
      banks={banks}
      elsewhere={orNotFound(banksElsewhere(context, courseId))}
      commands={commandsIn({ courseId }, 'beginBank', 'takeUpBank', 'renameBank', 'giveUpBank', 'undoChange')}
    />
  );
});
