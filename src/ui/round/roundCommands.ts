import type { Commands } from '../kit/commands';

/** What is asked of the server while a round is held. */
export type LeadCommands = Commands<
  'askAnother' | 'giveKey' | 'renameDevice' | 'sendOut' | 'changeRound',
  'courseId' | 'roundId'
>;
