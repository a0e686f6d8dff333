import { commandsIn, orNotFound, page } from '@/app/pages';
import { localDay, textOf } from '@/core/sitting/teachingWeeks';
import { nextTermBeginning } from '@/server/term/nextTerm';
import { NextTermPage } from '@/ui/people/NextTermPage';

export const metadata = { title: 'Next term' };

export default page<'courseId'>((context, { courseId }) => {
  const begun = orNotFound(nextTermBeginning(context, courseId));
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
});
