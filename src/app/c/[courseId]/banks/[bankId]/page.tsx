import type { Metadata } from 'next';
import { listBanks } from '@/server/bank/banks';
import { seeCategories } from '@/server/bank/categories';
import { isQuestionType, listQuestions, openQuestion } from '@/server/bank/questions';
import { BankPage } from '@/ui/bank/BankPage';
import { orNotFound, pageContext } from '../../../../request';
import {
  addCategory,
  addQuestion,
  changeQuestion,
  dropCategory,
  nameCategory,
  putCategory,
  retire,
  undo,
} from '../actions';

export const metadata: Metadata = { title: 'Bank' };

type Search = { category?: string; find?: string; question?: string; begin?: string };

export default async function Bank({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; bankId: string }>;
  searchParams: Promise<Search>;
}) {
  const { courseId, bankId } = await params;
  const { category, find, question, begin } = await searchParams;
  const context = await pageContext();
  const categories = orNotFound(seeCategories(context, courseId, bankId));
  const open = categories.find((one) => one.id === category) ?? null;
  const questions =
    find || open
      ? orNotFound(listQuestions(context, courseId, bankId, find ? { text: find } : { categoryId: open?.id }))
      : [];
  const opened = question ? openQuestion(context, courseId, bankId, question) : null;
  return (
    <BankPage
      base={`/c/${courseId}/banks/${bankId}`}
      banks={orNotFound(listBanks(context, courseId)).map((bank) => ({
        ...bank,
        href: `/c/${courseId}/banks/${bank.id}`,
      }))}
      bankId={bankId}
      categories={categories}
      openCategory={open?.id ?? null}
      find={find ?? ''}
      questions={questions}
      question={opened?.ok ? opened.value : null}
      begin={isQuestionType(begin) ? begin : null}
      commands={{
        addCategory: addCategory.bind(null, courseId, bankId),
        nameCategory: nameCategory.bind(null, courseId, bankId),
        putCategory: putCategory.bind(null, courseId, bankId),
        dropCategory: dropCategory.bind(null, courseId, bankId),
        addQuestion: addQuestion.bind(null, courseId, bankId),
        changeQuestion: changeQuestion.bind(null, courseId, bankId),
        retire: retire.bind(null, courseId, bankId),
        undo: undo.bind(null, courseId),
      }}
    />
  );
}
