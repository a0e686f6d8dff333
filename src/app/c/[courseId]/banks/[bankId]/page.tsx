import { commandsIn, orNotFound, page } from '@/app/pages';
import { bankView } from '@/core/bank/bankView';
import { filterFromQuery } from '@/core/bank/questionFilter';
import { bankLabels } from '@/server/bank/bankLabels';
import { listBanks } from '@/server/bank/banks';
import { seeCategories } from '@/server/bank/categories';
import { newQuestion } from '@/server/bank/newQuestion';
import { listPassages } from '@/server/bank/passages';
import { listQuestions } from '@/server/bank/questionList';
import { isQuestionType, openQuestion } from '@/server/bank/questions';
import { listFilters } from '@/server/bank/savedFilters';
import { BankPage } from '@/ui/bank/BankPage';

export const metadata = { title: 'Bank' };

export default page<'courseId' | 'bankId'>((context, { courseId, bankId }, { question, begin, all, ...query }) => {
  const categories = orNotFound(seeCategories(context, courseId, bankId));
  const opened = question ? openQuestion(context, courseId, bankId, question) : null;
  const { flat, filter, lists } = bankView(filterFromQuery(query), {
    categories: categories.map((one) => one.id),
    all: all === 'yes',
    openIn: opened?.ok ? opened.value.categoryId : null,
  });
  const list = lists ? orNotFound(listQuestions(context, courseId, bankId, filter)) : { total: 0, rows: [] };
  const type = isQuestionType(begin) ? begin : null;
  const home = filter.categories[0] ?? categories[0]?.id;
  const fresh = type && home ? orNotFound(newQuestion(context, courseId, bankId, type, home)) : null;
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
        'oldKeyPapers',
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
});
