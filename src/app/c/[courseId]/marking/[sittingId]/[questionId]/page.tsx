import { orNotFound, page } from '@/app/pages';
import { answersToMark, markingOrders } from '@/server/marking/answersToMark';
import { MarkingPage } from '@/ui/marking/MarkingPage';
import { markingCommands } from '../commands';

export const metadata = { title: 'Marking' };

export default page<'courseId' | 'sittingId' | 'questionId'>((context, { courseId, sittingId, questionId }, asked) => {
  const order = markingOrders.find((one) => one === asked.order) ?? 'mixed';
  const toMark = orNotFound(answersToMark(context, courseId, sittingId, questionId, order));
  return (
    <MarkingPage
      key={order}
      base={`/c/${courseId}/marking`}
      here={`/c/${courseId}/marking/${sittingId}`}
      page={toMark}
      by="question"
      order={order}
      commands={markingCommands(courseId, sittingId)}
    />
  );
});
