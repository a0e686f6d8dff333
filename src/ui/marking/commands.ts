import type { AnswerBody } from '@/server/marking/answerBodies';
import type { SavedComment } from '@/server/marking/savedComments';
import type { Command } from '../kit/usePerform';

/** What a marking page asks of the server. */
export type MarkingCommands = {
  mark: Command<[slotId: string, input: unknown], { points: number; markId: number }>;
  more: Command<[slotIds: string[]], AnswerBody[]>;
  keepComment: Command<[questionId: string, text: string], SavedComment>;
  dropComment: Command<[commentId: string], null>;
};
