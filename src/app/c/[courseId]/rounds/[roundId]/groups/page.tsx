import { commandsIn, orNotFound, page } from '@/app/pages';
import { groupings, groupKinds } from '@/core/round/groups';
import { seeGroups } from '@/server/round/after';
import { type Asked, GroupsPage } from '@/ui/round/GroupsPage';

export const metadata = { title: 'Who needs another lesson' };

/** What was asked for, and what is usual for the rest. */
const readAsked = (asked: Record<string, string | undefined>): Asked => {
  const size = Number(asked.size);
  return {
    size: Number.isInteger(size) && size >= 1 && size <= 500 ? size : 4,
    by: groupings.find((one) => one === asked.by) ?? 'result',
    kind: groupKinds.find((one) => one === asked.kind) ?? 'alike',
  };
};

export default page<'courseId' | 'roundId'>((context, { courseId, roundId }, sent) => {
  const asked = readAsked(sent);
  return (
    <GroupsPage
      here={`/c/${courseId}/rounds/${roundId}/groups`}
      back={`/c/${courseId}/rounds/${roundId}/after`}
      asked={asked}
      groups={orNotFound(seeGroups(context, courseId, roundId, asked))}
      commands={commandsIn({ courseId, roundId, sittingId: roundId }, 'groupToSection', 'writeToStudents')}
    />
  );
});
