import type { Commands } from '../kit/commands';

/** What a marking page asks of the server. */
export type MarkingCommands = Commands<
  'giveMark' | 'moreAnswers' | 'keepComment' | 'dropComment',
  'courseId' | 'sittingId'
>;
