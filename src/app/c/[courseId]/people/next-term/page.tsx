import type { Metadata } from 'next';
import { localDay, textOf } from '@/core/sitting/teachingWeeks';
import { nextTermBeginning } from '@/server/term/nextTerm';
import { NextTermPage } from '@/ui/people/NextTermPage';
import { commandsIn } from '../../../../commands';
import { orNotFound, pageContext } from '../../../../request';

export const metadata: Metadata = { title: 'Next term' };

export default async function NextTerm({ params }: { params: Promise<{ courseId: string }> }) {
  const { courseId } = await params;
  const begun = orNotFound(nextTermBeginning(await pageContext(), courseId));
  // Where nobody has said when teaching began, the first sitting is the best guess.
  const guess = begun.earliest === null ? '' : textOf(localDay(begun.earliest, begun.timeZone));
  return (
    <NextTermPage
      base={`/c/${courseId}/people`}
      begun={{
        name: begun.name,
        term: begun.term,
        before: { firstDay: begun.firstDay || guess, freeDays: [...begun.freeDays] },
      }}
      {...commandsIn({ courseId }, 'planNextTerm', 'beginNextTerm')}
    />
  );
}
