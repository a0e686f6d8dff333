import { inArray } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { choosePartsOf, paperRules, questionDeadline } from '@/core/exam/paperRules';
import { type AttemptScore, attemptScore } from '@/core/marking/attemptScore';
import { permits } from '@/core/people/policy';
import { stemLine } from '@/core/question/content';
import { responseText, rightResponse, scoreResponse } from '@/core/question/score';
import { forStudent, type ShownQuestion } from '@/core/question/student';
import { question } from '@/db/schema';
import { type DrawnSample, drawSample, sampleSeed } from '../exam/drawnSample';
import { toLook } from '../exam/toLook';
import { query } from '../house/useCase';
import { givenAnswers } from './givenAnswers';
import type { Opened } from './takeAttempt';
import { takingPaper } from './takingPaper';
import { unkeptOpening } from './unkeptOpening';

/** A slot of a trial names its place and the question's version, so that a paper drawn anew is told from the one shown. */
const slotId = (sample: DrawnSample, place: number) => `trial-${place}-${sample.slots[place]?.versionId}`;

/** What an exam is called, for whoever may try it, and whether it is who composes it. */
export const trialBeginning = query({
  admits: toLook,
  does({ exam, role }): Result<{ title: string; composes: boolean }> {
    return ok({ title: exam.title, composes: permits('exam.change', role) });
  },
});

/**
 * A paper for the taking pages, laid out as a student would get it. A trial stores nothing: its answers stay on the page,
 * and its paper is drawn again from the same seed when they are looked at.
 */
export const openTrial = query({
  admits: toLook,
  takes: [sampleSeed],
  does(look, seed): Result<Opened> {
    const drawn = drawSample(look, seed);
    if (!drawn.ok) return drawn;
    const { title, design, slots, passages } = drawn.value;
    const paper = takingPaper(
      { title, examId: look.examId, design, deadline: null, extraPercent: 0 },
      slots.map((slot, place) => ({ ...slot, slotId: slotId(drawn.value, place), openedAt: null })),
      (place) => slots[place]?.content as DrawnSample['slots'][number]['content'],
      passages,
    );
    // Nothing of a trial leaves the page before the hand-in anyway: that answers are held back needs no saying.
    return ok({ ...unkeptOpening(null, look.now), ...paper, anonymous: false });
  },
});

/** Opens a question of a trial that has a time of its own. */
export const openTrialQuestion = query({
  admits: toLook,
  takes: [sampleSeed, z.string().max(120)],
  does(look, seed, slot): Result<{ view: ShownQuestion; until: number | null }> {
    const drawn = drawSample(look, seed);
    if (!drawn.ok) return drawn;
    const { design, slots } = drawn.value;
    const place = slots.findIndex((_, i) => slotId(drawn.value, i) === slot);
    const found = slots[place];
    if (!found) return notFound('question on this paper');
    const limit = paperRules(design, slots)[place]?.limit ?? null;
    return ok({
      view: forStudent(found.content, found.presentation),
      until: limit === null ? null : questionDeadline(limit, 0, look.now, null),
    });
  },
});

/**
 * A right answer to every question of a trial's paper; for a written one its model answer. Of a choose-part that refuses
 * more, as many as it asks for.
 */
export const rightAnswers = query({
  admits: toLook,
  takes: [sampleSeed],
  does(look, seed): Result<{ slotId: string; value: unknown }[]> {
    const drawn = drawSample(look, seed);
    if (!drawn.ok) return drawn;
    const { design, slots } = drawn.value;
    const choose = choosePartsOf(design);
    const filled = new Map<string, number>();
    return ok(
      slots.flatMap((slot, place) => {
        const rule = choose.get(slot.partId);
        const before = filled.get(slot.partId) ?? 0;
        if (rule?.extra === 'refused' && before >= rule.count) return [];
        filled.set(slot.partId, before + 1);
        return [{ slotId: slotId(drawn.value, place), value: rightResponse(slot.content, slot.presentation) }];
      }),
    );
  },
});

type TrialSlot = {
  number: number;
  partTitle: string;
  questionId: string;
  bankId: string;
  name: string;
  answer: string;
  outOf: number;
  /** Null where a person would mark it, or where nothing is scored. */
  points: number | null;
  /** The key's own right answer does not earn full marks: the key is broken. */
  broken: boolean;
  /** One of a choose-part's questions that was not chosen. */
  spare: boolean;
};

export type TrialResult = { scored: boolean; score: AttemptScore; slots: TrialSlot[] };

/** What a trial would have earned. Refused when the bank has changed so that its paper would be another today. */
export const scoreTrial = query({
  admits: toLook,
  takes: [sampleSeed, givenAnswers],
  does(look, seed, answers): Result<TrialResult> {
    const drawn = drawSample(look, seed);
    if (!drawn.ok) return drawn;
    const { design, slots } = drawn.value;
    const known = new Set(slots.map((_, place) => slotId(drawn.value, place)));
    if ([...answers.keys()].some((id) => !known.has(id)))
      return refused('conflict', 'The questions have been changed since this trial began. Begin it anew.');
    const scored = design.purpose?.scored ?? true;
    const names = new Map(
      look.db
        .select({ id: question.id, shortName: question.shortName, bankId: question.bankId })
        .from(question)
        .where(
          inArray(
            question.id,
            slots.map((slot) => slot.questionId),
          ),
        )
        .all()
        .map((row) => [row.id, row]),
    );
    const choose = choosePartsOf(design);
    const marked = slots.map((slot, place): TrialSlot => {
      const { content, presentation } = slot;
      const value = answers.get(slotId(drawn.value, place));
      const given = scoreResponse(content, presentation, value);
      const byKey = scoreResponse(content, presentation, rightResponse(content, presentation));
      const row = names.get(slot.questionId);
      return {
        number: place + 1,
        partTitle: slot.partTitle,
        questionId: slot.questionId,
        bankId: row?.bankId ?? '',
        name: row?.shortName || stemLine(content),
        answer: responseText(content, presentation, value),
        outOf: slot.points,
        points: scored && given.kind === 'credit' ? given.credit * slot.points : null,
        broken: byKey.kind === 'credit' && byKey.credit < 1,
        spare: choose.has(slot.partId) && !value,
      };
    });
    const score = attemptScore(
      marked.map(({ outOf, points }, i) => ({ slotPoints: outOf, points, partId: slots[i]?.partId })),
      choose,
    );
    return ok({ scored, score, slots: marked });
  },
});
