import type { Metadata } from 'next';
import { answersToSecond } from '@/server/marking/secondMarking';
import { MarkingPage } from '@/ui/marking/MarkingPage';
import { commandsIn } from '../../../../../../commands';
import { orNotFound, pageContext } from '../../../../../../request';

export const metadata: Metadata = { title: 'Second marking' };

export default async function MarkSecond({
  params,
}: {
  params: Promise<{ courseId: string; sittingId: string; questionId: string }>;
}) {
  const { courseId, sittingId, questionId } = await params;
  const page = orNotFound(answersToSecond(await pageContext(), courseId, sittingId, questionId));
  const commands = commandsIn({ courseId, sittingId }, 'giveSecondMark', 'moreToSecond', 'keepComment', 'dropComment');
  return (
    <MarkingPage
      base={`/c/${courseId}/marking`}
      here={`/c/${courseId}/marking/${sittingId}`}
      page={page}
      by="question"
      order="mixed"
      second
      commands={{ ...commands, giveMark: commands.giveSecondMark, moreAnswers: commands.moreToSecond }}
    />
  );
}
