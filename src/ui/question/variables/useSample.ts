'use client';
import { useMemo } from 'react';
import { seededRandom } from '@/core/base/random';
import type { QuestionContent } from '@/core/question/content';
import { settle } from '@/core/question/settle';
import { drawValues, planValues } from '@/core/question/variables/drawValues';
import { varies } from '@/core/question/variables/inspectQuestion';

/** The question as one sample paper would have it; null while its variables give no values. */
export function useSample(content: QuestionContent): QuestionContent | null {
  return useMemo(() => {
    if (!varies(content)) return content;
    const values = drawValues(planValues(content), seededRandom('preview'));
    return values && settle(content, { values });
  }, [content]);
}
