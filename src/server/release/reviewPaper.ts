import type { QuestionSign } from '@/core/attempt/paperRuler';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import type { PassageNote, RubricLevels } from '@/core/marking/marks';
import { type Outcome, outcomeShown } from '@/core/marking/outcome';
import { whyPoints } from '@/core/marking/whyPoints';
import type { AnswerFeedback } from '@/core/question/answerFeedback';
import type { QuestionContent } from '@/core/question/content';
import { definitionOf } from '@/core/question/definitions';
import { asJudged, feedbackFor, keyOnly } from '@/core/question/feedbackFor';
import type { Presentation } from '@/core/question/presentation';
import { forStudent, type QuestionResponse, readResponse, type ShownQuestion } from '@/core/question/student';
import type { Rubric } from '@/core/question/types/written/content';
import type { Fact } from '@/core/release/plan';
import type { Db } from '@/db/client';
import { passageContents } from '../bank/passages';
import { markedSlots } from '../marking/markedSlots';
import { frozenContents } from '../records/paperContent';
import { type ReturnedFile, returnedFiles } from '../records/returnedFiles';
import { answeredOnPaper, sheetEvidence } from '../records/sheetEvidence';
import { sheetsShown } from './sheetsShown';

/** One question of a handed-in paper, with exactly what its student may see of it now. Everything else is absent. */
export type ReviewQuestion = {
  slotId: string;
  number: number;
  partTitle: string;
  passage: string | null;
  /** Without its key. Absent where the key is shown: then `keyed` holds the question. */
  view: ShownQuestion | null;
  /** The question with its key, for one paper. */
  keyed: { content: QuestionContent; presentation: Presentation } | null;
  response: QuestionResponse | null;
  outcome: Outcome | null;
  points: number | null;
  outOf: number;
  /** Why it has these points, where its key or its marker alone would have given others. */
  why: string | null;
  feedback: AnswerFeedback[];
  solution: Rich | null;
  comment: string;
  rubric: { rubric: Rubric; levels: RubricLevels } | null;
  notes: { text: string; said: string }[];
  files: ReturnedFile[];
  /** What of it stands on an answer sheet, of which the piece can be looked at. */
  onSheet: 'answer' | 'points' | null;
  /** Whether it was answered on paper, where boxes cannot hold the answer. */
  onPaper: boolean;
};

export const isMissed = ({ outcome }: Pick<ReviewQuestion, 'outcome'>): boolean =>
  outcome === 'wrong' || outcome === 'partly';

export function strokeOf(
  { number, partTitle, response: given, outcome }: ReviewQuestion,
  visible: Set<Fact>,
): QuestionSign {
  return {
    number,
    partTitle,
    answered: visible.has('own-answers') ? given !== null : true,
    ...(outcome === 'right' || outcome === 'partly' || outcome === 'wrong' ? { outcome } : {}),
    ...(outcome === 'waiting' ? { awaitsMark: true } : {}),
  };
}

/**
 * The questions of a handed-in paper, each built from what is visible and from nothing else.
 *
 * @param publishedAt when its result was published, where it has changed since; see {@link markedSlots}
 */
export function reviewPaper(
  db: Db,
  attemptId: string,
  visible: ReadonlySet<Fact>,
  publishedAt: Instant | null = null,
): { questions: ReviewQuestion[]; passages: Record<string, Rich>; sheets: { pageId: string; page: number }[] } {
  const moments = new Map(publishedAt === null ? [] : [[attemptId, publishedAt]]);
  const rows = markedSlots(db, [attemptId], moments).get(attemptId) ?? [];
  const contents = frozenContents(
    db,
    rows.flatMap(({ slot, judgeId }) => [slot.versionId, judgeId]),
  );
  const files = visible.has('comments')
    ? returnedFiles(
        db,
        rows.map(({ slot }) => slot.id),
      )
    : new Map<string, ReturnedFile[]>();
  const written = answeredOnPaper(db, attemptId);
  const shown = sheetsShown(sheetEvidence(db, [attemptId]).get(attemptId) ?? [], visible);
  const questions = rows.map(({ slot, value, newest, judgeId, anew }): ReviewQuestion => {
    const onPaper = contents.get(slot.versionId) as QuestionContent;
    const judge = contents.get(judgeId) as QuestionContent;
    const content = asJudged(onPaper, judge, slot.presentation);
    const { rubric } = definitionOf(content.type).markingAids(content);
    const given = readResponse(content.type, value) ?? null;
    const outcome = outcomeShown(newest, slot.points, anew);
    const showsKey = visible.has('right-answers');
    const tells = visible.has('feedback');
    return {
      slotId: slot.id,
      number: slot.position + 1,
      partTitle: slot.partTitle,
      passage: slot.passageVersionId,
      view: showsKey ? null : forStudent(onPaper, slot.presentation),
      keyed: showsKey ? { content: keyOnly(content), presentation: slot.presentation } : null,
      response: visible.has('own-answers') ? given : null,
      outcome: visible.has('right-or-wrong') ? outcome : null,
      points: visible.has('right-or-wrong') && newest && newest.kind !== 'left-out' ? newest.points : null,
      outOf: slot.points,
      why: visible.has('right-or-wrong') && newest ? whyPoints(newest, anew) : null,
      // What is said to an answer tells of the answer, and how it did: the parts that only this tells wait for these facts.
      feedback: tells
        ? feedbackFor(
            content,
            slot.presentation,
            visible.has('own-answers') ? value : null,
            visible.has('right-or-wrong') && newest && outcome !== 'given' ? outcome === 'right' : null,
          )
        : [],
      solution: (tells && content.feedback.solution) || null,
      comment: visible.has('comments') ? (newest?.comment ?? '') : '',
      rubric: visible.has('comments') && rubric && newest ? { rubric, levels: newest.rubric ?? {} } : null,
      notes: visible.has('comments') && visible.has('own-answers') ? notesOn(value, newest?.notes ?? []) : [],
      files: files.get(slot.id) ?? [],
      onSheet: shown.pieces.get(slot.position) ?? null,
      onPaper: written.has(slot.position),
    };
  });
  return {
    questions,
    sheets: shown.pages,
    passages: Object.fromEntries(
      passageContents(
        db,
        rows.flatMap(({ slot }) => slot.passageVersionId ?? []),
      ),
    ),
  };
}

/** Notes with the words they are about. */
function notesOn(value: unknown, notes: readonly PassageNote[]): ReviewQuestion['notes'] {
  const text = (value as { text?: string } | null)?.text ?? '';
  return notes.map((note) => ({ text: text.slice(note.from, note.to), said: note.text }));
}
