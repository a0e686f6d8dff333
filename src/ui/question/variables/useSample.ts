'use client';
import { useMemo } from 'react';
import { seededRandom } from '@/core/base/random';
import type { QuestionContent } from '@/core/question/content';
import { drawValues, planValues } from '@/core/question/variables/drawValues';
import { varies } from '@/core/question/variables/inspectQuestion';
import { variationOf } from '@/core/question/variables/variation';
import { withValues } from '@/core/question/withValues';

/** The question as one sample paper would have it; null while its variables give no values. */
export function useSample<Content extends QuestionContent>(content: Content): Content | null {
  return useMemo(() => {
    if (!varies(content)) return content;
    const values = drawValues(planValues(variationOf(content)), seededRandom('preview'));
    return values && withValues(content, { values });
  }, [content]);
}
