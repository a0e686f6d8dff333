import type { Person } from '@/server/people/roster';
import type { Commands } from '../kit/commands';

export type { Person };

export type PeopleCommands = Commands<
  | 'addPerson'
  | 'previewRoster'
  | 'addRoster'
  | 'changePerson'
  | 'typePeople'
  | 'removePerson'
  | 'bringBack'
  | 'inviteAgain'
  | 'letTryAgain'
  | 'offerAgain'
  | 'withdrawOffer'
  | 'setNameOrder'
  | 'undoChange',
  'courseId'
>;
