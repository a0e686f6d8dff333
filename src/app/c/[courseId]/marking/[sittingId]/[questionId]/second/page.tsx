import { commandsIn, orNotFound, page } from '@/app/pages';
import { answersToSecond } from '@/server/marking/secondMarking';
import { MarkingPage } from '@/ui/marking/MarkingPage';

export const metadata = { title: 'Second marking' };

export default page<'courseId' | 'sittingId' | 'questionId'>((context, { courseId, sittingId, questionId }) => {
  const shown = orNotFound(answersToSecond(context, courseId, sittingId, questionId));
  const commands = commandsIn({ courseId, sittingId }, 'giveSecondMark', 'moreToSecond', 'keepComment', 'dropComment');
  return (
    <MarkingPage
      base={`/c/${courseId}/marking`}
      here={`/c/${courseId}/marking/${sittingId}`}
      page={shown}
      by="question"
      order="mixed"
      second
      commands={{ ...commands, giveMark: commands.giveSecondMark, moreAnswers: commands.moreToSecond }}
    />
  );
});
