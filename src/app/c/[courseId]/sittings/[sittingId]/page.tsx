import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { openSitting } from '@/server/sitting/sittings';
import { SittingPage } from '@/ui/sitting/SittingPage';
import { orNotFound, pageContext } from '../../../../request';
import { again, arrangeFor, changeSitting, schedule } from '../actions';

export const metadata: Metadata = { title: 'Sitting' };

export default async function Sitting({ params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const context = await pageContext();
  const { role } = orNotFound(seeCourse(context, courseId));
  const { sitting, ...open } = orNotFound(openSitting(context, courseId, sittingId));
  return (
    <SittingPage
      key={sittingId}
      base={`/c/${courseId}`}
      now={context.now}
      mayChange={role === 'instructor'}
      sitting={{
        id: sitting.id,
        examId: sitting.examId,
        title: sitting.title,
        state: sitting.state,
        anonymous: sitting.anonymous,
        opens: sitting.opens,
        lastStart: sitting.lastStart,
        due: sitting.due,
        closes: sitting.closes,
        timeLimit: sitting.timeLimit,
        fullTimeOnceStarted: sitting.fullTimeOnceStarted,
        attemptsAllowed: sitting.attemptsAllowed,
        attemptCounts: sitting.attemptCounts,
      }}
      open={open}
      commands={{
        save: changeSitting.bind(null, courseId, sittingId),
        schedule: schedule.bind(null, courseId, sittingId),
        again: again.bind(null, courseId, sittingId),
        arrange: arrangeFor.bind(null, courseId, sittingId),
      }}
    />
  );
}
