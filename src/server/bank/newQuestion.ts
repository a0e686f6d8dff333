import type { QuestionType } from '@/core/question/types';
import type { Context } from '../house/context';
import { draftOf } from './drafts';
import { pointsIn } from './points';
import type { OpenQuestion } from './questions';
import { beginQuestion } from './remembered';

/** A question that is not stored yet, as this person begins one of its type: for its sheet. It has no id. */
export function newQuestion(context: Context, bankId: string, type: QuestionType, categoryId: string): OpenQuestion {
  const { content, difficulty, points } = beginQuestion(context, type);
  const usual = pointsIn(context.db, bankId)(type);
  return {
    id: '',
    bankId,
    categoryId,
    shortName: '',
    difficulty,
    points: points ?? usual,
    ownPoints: points,
    usualPoints: usual,
    edit: 0,
    version: 1,
    frozen: false,
    content,
    versions: [],
    passageId: null,
    objectives: [],
    tags: [],
    usage: null,
    draft: draftOf(context, bankId, `new/${type}`),
  };
}
