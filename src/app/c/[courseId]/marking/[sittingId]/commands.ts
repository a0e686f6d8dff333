import type { MarkingCommands } from '@/ui/marking/commands';
import { drop, keep, mark, more } from '../actions';

/** What a marking page of a sitting asks of the server. */
export const markingCommands = (courseId: string, sittingId: string): MarkingCommands => ({
  mark: mark.bind(null, courseId),
  more: more.bind(null, courseId, sittingId),
  keepComment: keep.bind(null, courseId),
  dropComment: drop.bind(null, courseId),
});
