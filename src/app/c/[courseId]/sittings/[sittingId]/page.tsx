import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { rulesOf } from '@/server/sitting/audience';
import { openSitting } from '@/server/sitting/openSitting';
import { SittingPage } from '@/ui/sitting/SittingPage';
import { orNotFound, ownOrigin, pageContext } from '../../../../request';
import { acknowledgeWarning, again, arrangeFor, changeSitting, keepRules, schedule } from '../actions';

export const metadata: Metadata = { title: 'Sitting' };

export default async function Sitting({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  const open = orNotFound(openSitting(context, courseId, sittingId));
  return (
    <SittingPage
      key={sittingId}
      base={`/c/${courseId}`}
      origin={await ownOrigin()}
      now={context.now}
      mayChange={role === 'instructor'}
      rules={rulesOf(open.sitting)}
      open={open}
      commands={{
        save: changeSitting.bind(null, courseId, sittingId),
        schedule: schedule.bind(null, courseId, sittingId),
        acknowledge: acknowledgeWarning.bind(null, courseId, sittingId),
        again: again.bind(null, courseId, sittingId),
        keepRules: keepRules.bind(null, courseId, sittingId),
        arrange: arrangeFor.bind(null, courseId, sittingId),
      }}
    />
  );
}
