import { z } from 'zod';
import { seededRandom } from '@/core/base/random';
import { ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { ExamDesign } from '@/core/exam/design';
import { drawPaper, type PaperSlot } from '@/core/exam/drawPaper';
import type { QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { present } from '@/core/question/score';
import { courseSnapshot } from '../bank/courseSnapshot';
import { currentPassages } from '../bank/passages';
import type { Context } from '../house/context';
import { frozenContents } from '../records/paperContent';
import type { AdmittedToExam } from './toExam';

type DrawnSlot = PaperSlot & {
  partTitle: string;
  content: QuestionContent;
  presentation: Presentation;
  /** The name of the question's category with those above it. */
  from: string;
};

export type DrawnSample = {
  title: string;
  design: ExamDesign;
  slots: DrawnSlot[];
  /** The texts of passages, by id. */
  passages: Map<string, Rich>;
};

/** What a seed of a sample may be: anything short. */
export const sampleSeed = z.string().max(100);

/** A paper as some student might get it, drawn from the bank of today. It freezes and stores nothing. */
export function drawSample(
  { context, courseId, examId, exam, revision }: AdmittedToExam & { context: Context; examId: string },
  seed: string,
): Result<DrawnSample> {
  const { design } = revision;
  const { snapshot, categoryNames } = courseSnapshot(context.db, courseId, { design, examId, now: context.now });
  const slots = drawPaper(design, snapshot, `sample/${examId}/${seed}`);
  if (!slots || slots.length === 0) return refused('conflict', 'No paper can be drawn yet: the plan check says why.');
  const contents = frozenContents(
    context.db,
    slots.map((slot) => slot.versionId),
  );
  const titles = new Map(design.parts.map((part) => [part.id, part.title]));
  const entries = new Map(snapshot.entries.map((entry) => [entry.questionId, entry]));
  return ok({
    title: exam.title,
    design,
    slots: slots.map((slot, i) => {
      const content = contents.get(slot.versionId) as QuestionContent;
      return {
        ...slot,
        partTitle: titles.get(slot.partId) ?? '',
        content,
        presentation: present(content, seededRandom(seed, `slot/${i}`), design),
        from: categoryNames.get(entries.get(slot.questionId)?.categoryPath.at(-1) ?? '') ?? '',
      };
    }),
    passages: currentPassages(
      context.db,
      slots.flatMap((slot) => slot.passageId ?? []),
    ),
  });
}
