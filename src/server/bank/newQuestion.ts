import { z } from 'zod';
import { id } from '@/core/base/id';
import { ok, type Result } from '@/core/base/result';
import { questionTypes } from '@/core/question/types';
import { query } from '../house/useCase';
import { draftOf } from './drafts';
import { pointsIn } from './points';
import type { OpenQuestion } from './questions';
import { beginQuestion } from './remembered';
import { toBank } from './toBank';

/** A question that is not stored yet, as this person begins one of its type: for its sheet. It has no id. */
export const newQuestion = query({
  admits: toBank('bank.change'),
  takes: [z.enum(questionTypes), id('category')],
  does({ context, bankId }, type, categoryId): Result<OpenQuestion> {
    const { content, difficulty, points } = beginQuestion(context, bankId, type);
    const usual = pointsIn(context.db, bankId)(type);
    return ok({
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
      retiredAt: null,
      draft: draftOf(context, bankId, `new/${type}`),
    });
  },
});
