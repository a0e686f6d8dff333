import type { Metadata } from 'next';
import { listBanks } from '@/server/bank/banks';
import { seeCategories } from '@/server/bank/categories';
import { BringInPage } from '@/ui/bank/BringInPage';
import { commandsIn } from '../../../../../commands';
import { orNotFound, pageContext } from '../../../../../request';

export const metadata: Metadata = { title: 'Bring in, take out' };

export default async function BringIn({ params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const { courseId, bankId } = await params;
  const context = await pageContext();
  const categories = orNotFound(seeCategories(context, courseId, bankId));
  const banks = orNotFound(listBanks(context, courseId));
  return (
    <BringInPage
      base={`/c/${courseId}/banks/${bankId}`}
      categories={categories}
      otherBanks={banks
        .filter((bank) => bank.id !== bankId)
        .map((bank) => ({ name: bank.name, href: `/c/${courseId}/banks/${bank.id}?all=yes` }))}
      commands={commandsIn({ courseId, bankId }, 'previewText', 'bringIn', 'undoChange')}
    />
  );
}
