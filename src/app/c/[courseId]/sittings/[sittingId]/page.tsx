import type { Metadata } from 'next';
import { seeCourse } from '@/server/people/courses';
import { rulesOf } from '@/server/records/audience';
import { openSitting } from '@/server/sitting/openSitting';
import { SittingPage } from '@/ui/sitting/SittingPage';
import { commandsIn } from '../../../../commands';
import { orNotFound, ownOrigin, pageContext } from '../../../../request';

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
      commands={commandsIn(
        { courseId, sittingId },
        'saveSitting',
        'scheduleSitting',
        'acknowledge',
        'giveAgain',
        'keepAsUsual',
        'arrange',
      )}
    />
  );
}
