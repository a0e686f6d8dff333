import type { Metadata } from 'next';
import { filterFromQuery, isNarrowed } from '@/core/bank/questionFilter';
import { bankLabels } from '@/server/bank/bankLabels';
import { listBanks } from '@/server/bank/banks';
import { seeCategories } from '@/server/bank/categories';
import { newQuestion } from '@/server/bank/newQuestion';
import { listPassages } from '@/server/bank/passages';
import { listQuestions } from '@/server/bank/questionList';
import { isQuestionType, openQuestion } from '@/server/bank/questions';
import { listFilters } from '@/server/bank/savedFilters';
import { BankPage } from '@/ui/bank/BankPage';
import { commandsIn } from '../../../../commands';
import { orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'Bank' };

type Search = Record<string, string | undefined> & { question?: string; begin?: string; all?: string };

export default async function Bank({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; bankId: string }>;
  searchParams: Promise<Search>;
}) {
  const { courseId, bankId } = await params;
  const { question, begin, all, ...query } = await searchParams;
  const context = await pageContext();
  const categories = orNotFound(seeCategories(context, courseId, bankId));
  const asked = filterFromQuery(query);
  const named = asked.categories.filter((id) => categories.some((one) => one.id === id));
  const flat = all === 'yes' || isNarrowed({ ...asked, categories: [] }) || named.length > 1;
  const opened = question ? openQuestion(context, courseId, bankId, question) : null;
  // In the outline the category of the open question is open, and shows its own questions: what lies below has rows there.
  const around = !flat && named.length === 0 && opened?.ok ? [opened.value.categoryId] : named;
  const filter = { ...asked, categories: around, below: flat };
  const wanted = flat || filter.categories.length > 0;
  const list = wanted ? orNotFound(listQuestions(context, courseId, bankId, filter)) : { total: 0, rows: [] };
  const type = isQuestionType(begin) ? begin : null;
  const home = filter.categories[0] ?? categories[0]?.id;
  const fresh = type && home ? orNotFound(newQuestion(context, courseId, bankId, type, home)) : null;
  const _bound = <Rest extends unknown[], Value>(command: (courseId: string, bankId: string, ...rest: Rest) => Value) =>
    command.bind(null, courseId, bankId) as (...rest: Rest) => Value;
  return (
    <BankPage
      base={`/c/${courseId}/banks/${bankId}`}
      banks={orNotFound(listBanks(context, courseId)).map((bank) => ({
        ...bank,
        href: `/c/${courseId}/banks/${bank.id}`,
      }))}
      bankId={bankId}
      categories={categories}
      filter={filter}
      flat={flat}
      list={list}
      {...orNotFound(bankLabels(context, courseId, bankId))}
      passages={orNotFound(listPassages(context, courseId, bankId)).map(({ id, shortName }) => ({ id, shortName }))}
      savedFilters={orNotFound(listFilters(context, courseId, bankId))}
      question={fresh ?? (opened?.ok ? opened.value : null)}
      begin={type}
      commands={commandsIn(
        { courseId, bankId },
        'createCategory',
        'renameCategory',
        'moveCategory',
        'deleteCategory',
        'emptyCategoryInto',
        'createQuestion',
        'saveQuestion',
        'retireQuestion',
        'undoChange',
        'listQuestions',
        'editMany',
        'copyQuestions',
        'keepDraft',
        'giveUpDraft',
        'saveFilter',
        'dropFilter',
        'openQuestion',
      )}
    />
  );
}
