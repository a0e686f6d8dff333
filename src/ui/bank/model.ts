import type { QuestionRow as QuestionLine } from '@/server/bank/questionList';
import type { OpenQuestion } from '@/server/bank/questions';
import type { QuestionUsage as Usage } from '@/server/bank/questionUsage';
import type { Selection } from '@/server/bank/selection';

export type { OpenQuestion, QuestionLine, Selection, Usage };

import type { CategoryNode } from '@/core/bank/categoryTree';
import type { QuestionFilter } from '@/core/bank/questionFilter';
import type { Result } from '@/core/base/result';
import type { QuestionType } from '@/core/question/types';
import type { Command } from '../kit/usePerform';

export type Objective = { id: string; code: string; wording: string };

type Undoable = { auditId: number };

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
