import { ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { withValues } from '@/core/question/withValues';
import { query } from '../house/useCase';
import { drawSample, sampleSeed } from './drawnSample';
import { toLook } from './toLook';

export type SampleSlot = {
  number: number;
  partTitle: string;
  points: number;
  content: QuestionContent;
  /** The order in which this paper shows the choices, by id. */
  presentation: Presentation;
  /** The passage it is shown with; given with the first of its questions only. */
  passage: Rich | null;
  from: string;
};

/** A place on a paper before it is laid out for reading. */
type Place = Pick<SampleSlot, 'partTitle' | 'points' | 'content' | 'presentation'> & {
  /** The passage it belongs to, by the id under which its text is given. */
  passageId: string | null;
  from?: string;
};

/** Lays a paper out for reading with its key: values filled in, each passage with the first of its questions. */
export const forReading = (places: readonly Place[], passages: ReadonlyMap<string, Rich>): SampleSlot[] =>
  places.map(({ partTitle, points, content, presentation, passageId, from = '' }, i) => ({
    number: i + 1,
    partTitle,
    points,
    presentation,
    passage: passageId !== places[i - 1]?.passageId ? (passages.get(passageId ?? '') ?? null) : null,
    content: withValues(content, presentation),
    from,
  }));

/** A sample paper with its right answers, for its instructor and for a colleague who looks at it. */
export const samplePaper = query({
  admits: toLook,
  takes: [sampleSeed],
  does(look, seed): Result<{ title: string; slots: SampleSlot[] }> {
    const drawn = drawSample(look, seed);
    if (!drawn.ok) return drawn;
    const { title, slots, passages } = drawn.value;
    return ok({ title, slots: forReading(slots, passages) });
  },
});
