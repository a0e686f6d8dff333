import type { Metadata } from 'next';
import { listBanks } from '@/server/bank/banks';
import { seeCategories } from '@/server/bank/categories';
import { tagsInBank } from '@/server/bank/labels';
import { newQuestion } from '@/server/bank/newQuestion';
import { objectivesOf } from '@/server/bank/objectives';
import { listPassages } from '@/server/bank/passages';
import { isQuestionType } from '@/server/bank/questions';
import { admitToExam } from '@/server/exam/exams';
import { WriteQuestionPage } from '@/ui/exam/WriteQuestionPage';
import { orNotFound, pageContext } from '../../../../../request';
import * as bankCommands from '../../../banks/actions';
import { writeQuestion } from '../../actions';

export const metadata: Metadata = { title: 'New question for the exam' };

type Search = { part?: string; type?: string; bank?: string };

export default async function NewQuestion({
  params,
  searchParams,
}: {
  params: Promise<{ courseId: string; examId: string }>;
  searchParams: Promise<Search>;
}) {
  const { courseId, examId } = await params;
  const asked = await searchParams;
  const context = await pageContext();
  const { exam, revision } = orNotFound(admitToExam(context, courseId, examId, 'exam.change'));
  const banks = orNotFound(listBanks(context, courseId));
  const bankId = banks.find((bank) => bank.id === asked.bank)?.id ?? banks[0]?.id ?? '';
  const type = isQuestionType(asked.type) ? asked.type : 'single-choice';
  const categories = orNotFound(seeCategories(context, courseId, bankId));
  const part = revision.design.parts.find((one) => one.id === asked.part) ?? revision.design.parts[0];
  return (
    <WriteQuestionPage
      exam={{ href: `/c/${courseId}/exams/${examId}`, title: exam.title, part: part?.title ?? '' }}
      here={{ part: part?.id ?? '', bank: bankId, type }}
      banks={banks.map(({ id, name }) => ({ id, name }))}
      question={newQuestion(context, bankId, type, categories[0]?.id ?? '')}
      bank={{
        base: `/c/${courseId}/banks/${bankId}`,
        categories,
        objectives: objectivesOf(context.db, bankId),
        tags: tagsInBank(context.db, bankId),
        passages: orNotFound(listPassages(context, courseId, bankId)).map(({ id, shortName }) => ({ id, shortName })),
        commands: {
          addQuestion: writeQuestion.bind(null, courseId, examId, part?.id ?? '', bankId),
          keepDraft: bankCommands.keepDraft.bind(null, courseId, bankId),
          giveUpDraft: bankCommands.giveUpDraft.bind(null, courseId, bankId),
        },
      }}
    />
  );
}
