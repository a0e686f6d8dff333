import { orNotFound, page } from '@/app/pages';
import { counted } from '@/core/base/words';
import { markingQueue } from '@/server/marking/markingQueue';
import { secondQueue } from '@/server/marking/secondMarking';
import { seeCourse } from '@/server/people/courses';
import { Empty, PageFrame, PageTitle } from '@/ui/kit/Page';
import { QueueTable } from '@/ui/marking/QueueTable';

export const metadata = { title: 'Marking' };

export default page<'courseId'>((context, { courseId }) => {
  const rows = orNotFound(markingQueue(context, courseId));
  const second = orNotFound(secondQueue(context, courseId));
  const { role } = orNotFound(seeCourse(context, courseId));
  const waiting = rows.reduce((sum, row) => sum + row.waiting, 0);
  return (
    <PageFrame>
      <PageTitle title="Marking" note={`${counted(waiting, 'answer waits', 'answers wait')} for a mark by hand`} />
      {rows.length === 0 && second.length === 0 ? (
        <Empty title="Nothing to mark">
          Closed questions are marked by rule at the hand-in. Written answers stand here, question by question, as soon
          as they are handed in.
        </Empty>
      ) : (
        <QueueTable
          base={`/c/${courseId}/marking`}
          rows={rows}
          second={second}
          now={context.now}
          maySet={role === 'instructor'}
        />
      )}
    </PageFrame>
  );
});
