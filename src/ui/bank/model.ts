import type { QuestionRow as QuestionLine } from '@/server/bank/questionList';
import type { OpenQuestion } from '@/server/bank/questions';
import type { QuestionUsage as Usage } from '@/server/bank/questionUsage';
import type { Selection } from '@/server/bank/selection';
import type { Commands } from '../kit/commands';

export type { OpenQuestion, QuestionLine, Selection, Usage };

import type { CategoryNode } from '@/core/bank/categoryTree';
import type { QuestionFilter } from '@/core/bank/questionFilter';
import type { QuestionType } from '@/core/question/types';

export type Objective = { id: string; code: string; wording: string };

export type BankCommands = Commands<
  | 'createCategory'
  | 'renameCategory'
  | 'moveCategory'
  | 'deleteCategory'
  | 'emptyCategoryInto'
  | 'createQuestion'
  | 'saveQuestion'
  | 'retireQuestion'
  | 'undoChange'
  | 'listQuestions'
  | 'editMany'
  | 'copyQuestions'
  | 'keepDraft'
  | 'giveUpDraft'
  | 'saveFilter'
  | 'dropFilter'
  | 'openQuestion',
  'courseId' | 'bankId'
> &
  Partial<Commands<'oldKeyPapers', 'courseId' | 'bankId'>>;

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

/** What a sheet asks of the server. A new question needs no more than to be added and drafted. */
export type SheetCommands = Pick<BankCommands, 'createQuestion' | 'keepDraft' | 'giveUpDraft'> &
  Partial<Pick<BankCommands, 'saveQuestion' | 'retireQuestion' | 'openQuestion' | 'oldKeyPapers'>>;
