import { commandsIn, orNotFound, page } from '@/app/pages';
import { listBanks } from '@/server/bank/banks';
import { seeCategories } from '@/server/bank/categories';
import { encodings } from '@/server/outside/decodedText';
import { BringInPage } from '@/ui/bank/BringInPage';

export const metadata = { title: 'Bring in, take out' };

export default page<'courseId' | 'bankId'>((context, { courseId, bankId }) => {
  const categories = orNotFound(seeCategories(context, courseId, bankId));
  const banks = orNotFound(listBanks(context, courseId));
  return (
    <BringInPage
      base={`/c/${courseId}/banks/${bankId}`}
      categories={categories}
      otherBanks={banks
        .filter((bank) => bank.id !== bankId)
        .map((bank) => ({ name: bank.name, href: `/c/${courseId}/banks/${bank.id}?all=yes` }))}
      letters={Object.entries(encodings)}
      commands={commandsIn({ courseId, bankId }, 'previewText', 'bringIn', 'undoChange')}
    />
  );
});
