import { redirect } from 'next/navigation';
import { commandsIn, orNotFound, page } from '@/app/pages';
import { seeCourse } from '@/server/people/courses';
import { rulesOf } from '@/server/records/audience';
import { openSitting } from '@/server/sitting/openSitting';
import { SittingPage } from '@/ui/sitting/SittingPage';
import { ownOrigin } from '../../../../request';

export const metadata = { title: 'Sitting' };

export default page<'courseId' | 'sittingId'>(async (context, { courseId, sittingId }, asked) => {
  const { role } = orNotFound(seeCourse(context, courseId));
  const open = orNotFound(openSitting(context, courseId, sittingId));
  // A round is held, not planned.
  if (open.sitting.isRound) redirect(`/c/${courseId}/rounds/${sittingId}`);
  return (
    <SittingPage
      key={sittingId}
      base={`/c/${courseId}`}
      origin={await ownOrigin()}
      now={context.now}
      mayChange={role === 'instructor'}
      rules={rulesOf(open.sitting)}
      open={open}
      ill={asked.ill ?? null}
      commands={commandsIn(
        { courseId, sittingId },
        'saveSitting',
        'scheduleSitting',
        'acknowledge',
        'giveAgain',
        'keepAsUsual',
        'arrange',
        'makeUp',
        'callOffSitting',
        'redraftSitting',
        'removeSitting',
      )}
    />
  );
});
