import type { Role } from '@/core/people/policy';
import type { BadRosterRow, RosterRow } from '@/core/people/readRoster';
import type { Command } from '../kit/usePerform';

/** What would happen with a class list. */
export type ListPreview = { ready: RosterRow[]; bad: BadRosterRow[]; newSections: string[]; problem: string | null };

export type Person = {
  membershipId: string;
  userId: string;
  name: string;
  email: string;
  role: Role;
  section: string | null;
  studentNumber: string | null;
  extraPercent: number;
};

export type PeopleCommands = {
  addOne: Command<[unknown], { userId: string }>;
  previewList: Command<[string], ListPreview>;
  addList: Command<[string], { added: number; left: number }>;
  changeOne: Command<[string, unknown], null>;
  removeOne: Command<[string], { auditId: number }>;
  undo: Command<[number], null>;
};
