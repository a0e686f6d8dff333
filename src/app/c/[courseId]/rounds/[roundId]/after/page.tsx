import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { seeAfter } from '@/server/round/after';
import { seeHeldBack } from '@/server/round/grid';
import { AfterPage } from '@/ui/round/AfterPage';

export const metadata = { title: 'A round afterwards' };

export default page<'courseId' | 'roundId'>((context, { courseId, roundId }, asked) => {
  const { role } = orNotFound(seeCourse(context, courseId));
  return (
    <AfterPage
      courseId={courseId}
      roundId={roundId}
      wall={`/wall/${courseId}/${roundId}`}
      after={orNotFound(seeAfter(context, courseId, roundId, asked['made-up'] === 'yes'))}
      held={role === 'instructor' ? orNotFound(seeHeldBack(context, courseId, roundId)) : null}
      mayChange={role === 'instructor'}
      commands={commandsIn({ courseId, roundId, sittingId: roundId }, 'walkThrough', 'giveKey', 'acknowledge')}
    />
  );
});
