import { commandsIn } from '@/app/pages';
import type { MarkingCommands } from '@/ui/marking/commands';

/** What a marking page of a sitting asks of the server. */
export const markingCommands = (courseId: string, sittingId: string): MarkingCommands =>
  commandsIn({ courseId, sittingId }, 'giveMark', 'moreAnswers', 'keepComment', 'dropComment');
