import type { CategoryNode } from '@/core/bank/categoryTree';
import type { QuestionFilter } from '@/core/bank/questionFilter';
import type { Result } from '@/core/base/result';
import type { QuestionContent } from '@/core/question/content';
import type { Success } from '@/core/question/successRange';
import type { Difficulty, QuestionType } from '@/core/question/types';
import type { Command } from '../kit/usePerform';

export type QuestionLine = {
  id: string;
  type: QuestionType;
  shortName: string;
  text: string;
  category: string;
  difficulty: Difficulty | null;
  points: number;
  passage: boolean;
  success: Success | null;
  lastUsed: number | null;
};

export type Usage = {
  success: Success | null;
  drawn: number;
  lastUsed: number | null;
  sittings: { title: string; exam: string; at: number; drawn: number }[];
};

export type OpenQuestion = {
  id: string;
  categoryId: string;
  shortName: string;
  difficulty: Difficulty | null;
  /** Its own points; null where those of its bank hold. */
  ownPoints: number | null;
  usualPoints: number;
  edit: number;
  version: number;
  frozen: boolean;
  content: QuestionContent;
  versions: { number: number; createdAt: number; frozen: boolean; changed: string[] }[];
  passageId: string | null;
  objectives: { id: string; code: string; wording: string }[];
  tags: string[];
  usage: Usage | null;
  draft: { edit: number; fields: Record<string, unknown>; savedAt: number } | null;
};

export type Objective = { id: string; code: string; wording: string };

type Undoable = { auditId: number };

export type Selection = { ids: string[] } | { filter: QuestionFilter; but: string[] };

export type BankCommands = {
  addCategory: Command<[name: string, parentId: string | null], { categoryId: string }>;
  nameCategory: Command<[categoryId: string, name: string], Undoable>;
  putCategory: Command<[categoryId: string, target: { parentId: string | null; place: number }], Undoable>;
  dropCategory: Command<[categoryId: string], Undoable>;
  emptyCategory: Command<[categoryId: string, targetId: string], Undoable & { questions: number; categories: number }>;
  addQuestion: Command<[input: unknown], { questionId: string }>;
  changeQuestion: Command<[questionId: string, input: unknown], { edit: number; version: number; newVersion: boolean }>;
  retire: Command<[questionId: string], Undoable>;
  undo: Command<[auditId: number], null>;
  more: (filter: QuestionFilter, from: number) => Promise<Result<{ total: number; rows: QuestionLine[] }>>;
  editMany: Command<[input: unknown], { selected: number; changed: number; auditId: number | null }>;
  copyTo: Command<[selection: Selection, bankId: string], { copied: number; auditId: number | null }>;
  keepDraft: (input: unknown) => Promise<Result<{ savedAt: number }>>;
  giveUpDraft: (subject: string) => Promise<Result<null>>;
  saveFilter: Command<[input: unknown], { id: string; name: string; query: string }>;
  dropFilter: Command<[filterId: string], null>;
  current: (questionId: string) => Promise<Result<OpenQuestion>>;
};

export type BankPageProps = {
  base: string;
  banks: { id: string; name: string; questions: number; href: string }[];
  bankId: string;
  categories: CategoryNode[];
  filter: QuestionFilter;
  /** Whether the list stands flat rather than below its open category. */
  flat: boolean;
  list: { total: number; rows: QuestionLine[] };
  objectives: Objective[];
  tags: string[];
  passages: { id: string; shortName: string }[];
  savedFilters: { id: string; name: string; query: string }[];
  question: OpenQuestion | null;
  begin: QuestionType | null;
  commands: BankCommands;
};
