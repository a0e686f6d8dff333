import type { Commands } from '../kit/commands';

/** What can be done in a room. */
export type RoomCommands = Commands<
  | 'addTime'
  | 'handInFor'
  | 'reopen'
  | 'voidAttempt'
  | 'restoreAttempt'
  | 'letThrough'
  | 'addNote'
  | 'seeKeptAside'
  | 'decideAside'
  | 'settleIncident'
  | 'beforeReopening',
  'courseId' | 'sittingId'
>;
