import { seededRandom } from '@/core/base/random';
import { ok, type Result } from '@/core/base/result';
import { minute } from '@/core/base/time';
import { tryOutDesign, tryOutQuestions } from '@/core/exam/tryOut';
import type { QuestionContent } from '@/core/question/content';
import { present, scoreResponse } from '@/core/question/score';
import { readResponse } from '@/core/question/student';
import { asThemselves } from '../house/asThemselves';
import { query } from '../house/useCase';
import { givenAnswers } from './givenAnswers';
import type { Opened } from './takeAttempt';
import { takingPaper } from './takingPaper';
import { unkeptOpening } from './unkeptOpening';

const timeLimit = 30 * minute;
const presentationOf = (content: QuestionContent, place: number) =>
  present(content, seededRandom('try-out', String(place)), tryOutDesign);

/** The try-out exam on the taking page: the same for everyone, open to whoever is signed in, and never stored. */
export const openTryOut = query({
  admits: asThemselves,
  does({ now }): Result<Opened> {
    const deadline = now + timeLimit;
    const paper = takingPaper(
      { title: 'Try-out', examId: 'try-out', design: tryOutDesign, deadline, extraPercent: 0 },
      tryOutQuestions.map((content, i) => ({
        slotId: `try-${i}`,
        partId: 'try-out',
        partTitle: 'One of each type',
        lineId: `line-${i}`,
        points: 1,
        presentation: presentationOf(content, i),
        passageId: null,
        openedAt: null,
      })),
      (place) => tryOutQuestions[place] as QuestionContent,
      new Map(),
    );
    return ok({ ...unkeptOpening(deadline, now), ...paper });
  },
});

export type TryOutOutcome = { questions: number; answered: number; right: number; byHand: number };

/** What the try-out would have earned: nothing of it is kept. */
export const scoreTryOut = query({
  admits: asThemselves,
  takes: [givenAnswers],
  does(_look, answers): Result<TryOutOutcome> {
    const outcome = { questions: tryOutQuestions.length, answered: 0, right: 0, byHand: 0 };
    for (const [i, content] of tryOutQuestions.entries()) {
      const value = answers.get(`try-${i}`);
      if (!readResponse(content.type, value)) continue;
      outcome.answered += 1;
      const scored = scoreResponse(content, presentationOf(content, i), value);
      if (scored.kind === 'by-hand') outcome.byHand += 1;
      else if (scored.credit >= 1) outcome.right += 1;
    }
    return ok(outcome);
  },
});
