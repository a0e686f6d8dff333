import type { CategoryNode } from '@/core/bank/categoryTree';
import type { QuestionContent } from '@/core/question/content';
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
};

export type OpenQuestion = {
  id: string;
  categoryId: string;
  shortName: string;
  difficulty: Difficulty | null;
  points: number;
  edit: number;
  version: number;
  frozen: boolean;
  content: QuestionContent;
  versions: { number: number; createdAt: number; frozen: boolean }[];
  objectives: { code: string; wording: string }[];
};

type Undoable = { auditId: number };

export type BankCommands = {
  addCategory: Command<[name: string, parentId: string | null], { categoryId: string }>;
  nameCategory: Command<[categoryId: string, name: string], Undoable>;
  putCategory: Command<[categoryId: string, target: { parentId: string | null; place: number }], Undoable>;
  dropCategory: Command<[categoryId: string], Undoable>;
  addQuestion: Command<[input: unknown], { questionId: string }>;
  changeQuestion: Command<[questionId: string, input: unknown], { edit: number; version: number; newVersion: boolean }>;
  retire: Command<[questionId: string], Undoable>;
  undo: Command<[auditId: number], null>;
};

export type BankPageProps = {
  base: string;
  banks: { id: string; name: string; questions: number; href: string }[];
  bankId: string;
  categories: CategoryNode[];
  openCategory: string | null;
  find: string;
  questions: QuestionLine[];
  question: OpenQuestion | null;
  begin: QuestionType | null;
  commands: BankCommands;
};
