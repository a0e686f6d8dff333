import { commandsIn, orNotFound, page } from '@/app/pages';
import { bankLabels } from '@/server/bank/bankLabels';
import { listBanks } from '@/server/bank/banks';
import { seeCategories } from '@/server/bank/categories';
import { newQuestion } from '@/server/bank/newQuestion';
import { listPassages } from '@/server/bank/passages';
import { isQuestionType } from '@/server/bank/questions';
import { openExam } from '@/server/exam/exams';
import { WriteQuestionPage } from '@/ui/exam/WriteQuestionPage';

export const metadata = { title: 'New question for the exam' };

export default page<'courseId' | 'examId'>((context, { courseId, examId }, asked) => {
  const { title, design } = orNotFound(openExam(context, courseId, examId));
  const banks = orNotFound(listBanks(context, courseId));
  const bankId = banks.find((bank) => bank.id === asked.bank)?.id ?? banks[0]?.id ?? '';
  const type = isQuestionType(asked.type) ? asked.type : 'single-choice';
  const categories = orNotFound(seeCategories(context, courseId, bankId));
  const part = design.parts.find((one) => one.id === asked.part) ?? design.parts[0];
  const where = { courseId, examId, bankId };
  const { writeForExam, ...drafts } = commandsIn(where, 'writeForExam', 'saveQuestion', 'keepDraft', 'giveUpDraft');
  return (
    <WriteQuestionPage
      exam={{ href: `/c/${courseId}/exams/${examId}`, title, part: part?.title ?? '' }}
      here={{ part: part?.id ?? '', bank: bankId, type }}
      banks={banks.map(({ id, name }) => ({ id, name }))}
      question={orNotFound(newQuestion(context, courseId, bankId, type, categories[0]?.id ?? ''))}
      bank={{
        bankId,
        base: `/c/${courseId}/banks/${bankId}`,
        categories,
        ...orNotFound(bankLabels(context, courseId, bankId)),
        passages: orNotFound(listPassages(context, courseId, bankId)).map(({ id, shortName }) => ({ id, shortName })),
        commands: {
          createQuestion: writeForExam.bind(null, { partId: part?.id ?? '', bankId }),
          ...drafts,
        },
      }}
    />
  );
});
