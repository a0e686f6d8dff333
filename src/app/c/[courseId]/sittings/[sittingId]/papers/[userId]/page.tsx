import { orNotFound, page } from '@/app/pages';
import { paperOfStudent } from '@/server/attempt/paperOfStudent';
import { PaperReading } from '@/ui/exam/PaperReading';
import { PageFrame, PageTitle } from '@/ui/kit/Page';
import { Problems } from '@/ui/kit/Problems';

export const metadata = { title: 'A student’s paper' };

/** The paper of one student, with its key. */
export default page<'courseId' | 'sittingId' | 'userId'>((context, { courseId, sittingId, userId }) => {
  const found = paperOfStudent(context, courseId, sittingId, userId);
  const back = (name: string) => ({ href: `/c/${courseId}/sittings/${sittingId}`, name });
  if (!found.ok) {
    if (found.problems[0]?.code !== 'conflict') orNotFound(found);
    return (
      <PageFrame width="sheet">
        <PageTitle title="No paper" back={back('The sitting')} />
        <Problems problems={found.problems} />
      </PageFrame>
    );
  }
  const { title, student, attempt, mayChange, slots } = found.value;
  return (
    <PageFrame width="sheet">
      <PageTitle
        title={`The paper of ${student}`}
        back={back(title)}
        note={`${attempt === null ? 'not started yet: what the first attempt will get' : `attempt ${attempt}`}${mayChange ? ', unless the bank is changed before anyone starts' : ''}`}
      />
      <PaperReading slots={slots} />
    </PageFrame>
  );
});
