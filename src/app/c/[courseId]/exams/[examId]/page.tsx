import { commandsIn, orNotFound, page } from '@/app/pages';
import { keySheets } from '@/server/answerSheet/keySheets';
import { openExam } from '@/server/exam/exams';
import { openItems } from '@/server/exam/items';
import { seeCourse } from '@/server/people/courses';
import { ExamPlan } from '@/ui/exam/ExamPlan';
import { OffScreenPlan } from '@/ui/exam/items/OffScreenPlan';

export const metadata = { title: 'Exam plan' };

export default page<'courseId' | 'examId'>((context, { courseId, examId }) => {
  const { role } = orNotFound(seeCourse(context, courseId));
  const exam = orNotFound(openExam(context, courseId, examId));
  const common = {
    base: `/c/${courseId}`,
    exam,
    mayChange: role === 'instructor',
    ...commandsIn({ courseId, examId }, 'saveExam', 'openExam', 'createSitting', 'labelExam'),
  };
  if (exam.design.offScreen) {
    const items = openItems(context, courseId, examId);
    const sheets = keySheets(context, courseId, examId);
    return (
      <OffScreenPlan
        {...common}
        items={items.ok ? items.value : []}
        keySheets={
          sheets.ok
            ? {
                sheets: sheets.value,
                href: `/c/${courseId}/exams/${examId}/key-sheet`,
                ...commandsIn({ courseId, examId }, 'makeKeySheet'),
              }
            : null
        }
        {...commandsIn({ courseId, examId }, 'changeExamItems')}
      />
    );
  }
  return (
    <ExamPlan
      {...common}
      {...commandsIn({ courseId, examId }, 'choosableQuestions', 'countPool', 'lookThroughQuestions')}
    />
  );
});
