import type { Person, RosterPreview } from '@/server/people/roster';

export type { Person };

import type { Command } from '../kit/usePerform';

export type PeopleCommands = {
  addOne: Command<[unknown], { userId: string }>;
  previewList: Command<[string], RosterPreview>;
  addList: Command<[string], { added: number; left: number }>;
  changeOne: Command<[string, unknown], null>;
  removeOne: Command<[string], { auditId: number }>;
  undo: Command<[number], null>;
};
