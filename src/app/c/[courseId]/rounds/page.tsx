import { commandsIn, orNotFound, page } from '@/app/pages';
import { ownOrigin } from '@/app/request';
import { seeCourse } from '@/server/people/courses';
import { askedOverRounds, listRounds } from '@/server/round/after';
import { beforeRound } from '@/server/round/beginRound';
import { RoundsPage } from '@/ui/round/RoundsPage';

export const metadata = { title: 'Rounds' };

export default page<'courseId'>(async (context, { courseId }, asked) => {
  const { timeZone, role } = orNotFound(seeCourse(context, courseId));
  return (
    <RoundsPage
      courseId={courseId}
      chosen={asked.exam ?? null}
      timeZone={timeZone}
      origin={await ownOrigin()}
      beginning={role === 'instructor' ? orNotFound(beforeRound(context, courseId)) : null}
      rounds={orNotFound(listRounds(context, courseId))}
      askedBefore={orNotFound(askedOverRounds(context, courseId))}
      commands={commandsIn({ courseId }, 'beginRound', 'askNow', 'changeDoor')}
    />
  );
});
