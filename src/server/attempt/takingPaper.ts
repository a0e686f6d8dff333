import type { Rich } from '@/core/base/rich';
import { type Duration, type Instant, minute } from '@/core/base/time';
import type { ChooseRule, ExamDesign } from '@/core/exam/design';
import { choosePartsOf, paperRules, questionDeadline } from '@/core/exam/paperRules';
import type { QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { forStudent, type ShownQuestion } from '@/core/question/student';
import { documentOf, type ShownDocument } from '../exam/shownDocument';
import type { CheckedQuestion } from './tries';

export type TakingSlot = {
  slotId: string;
  number: number;
  partId: string;
  partTitle: string;
  points: number;
  /** Null while a question with a time of its own has not been opened. */
  view: ShownQuestion | null;
  /** The passage it belongs to, in `passages` of the paper. */
  passage: string | null;
  page: number;
  required: boolean;
  /** The time of its own in milliseconds, extra time included, and when it ends once it runs. */
  limit: Duration | null;
  until: Instant | null;
  /** Where it stands between its tries; null where questions are not checked before the hand-in. */
  checked: CheckedQuestion | null;
};

/** A paper as its student may see it: built from the students' projection of each question. */
export type TakingPaper = {
  title: string;
  instructions: Rich;
  slots: TakingSlot[];
  passages: Record<string, Rich>;
  /** The choose-parts by id. */
  choose: Record<string, ChooseRule>;
  /** An answer sheet, because the questions stand on paper, with the paper where students may see it; else null. */
  sheet: { document: ShownDocument | null } | null;
  /** Answers stay in the browser until the hand-in, because nobody may know whose they are. */
  anonymous: boolean;
  /** No way back to a page once it is left; the furthest page opened, from 0. */
  onwardOnly: boolean;
  reached: number;
};

/** A slot of a paper as it is stored, or as it would be. */
type PaperPlace = {
  slotId: string;
  partId: string;
  partTitle: string;
  lineId: string;
  points: number;
  presentation: Presentation;
  /** The passage's version, or the passage where nothing is stored. */
  passageId: string | null;
  openedAt: Instant | null;
};

/** What a student learns of one question: nothing of it before its own time runs; no files where nobody may be known. */
function viewOf(content: QuestionContent, presentation: Presentation, hidden: boolean, anonymous: boolean) {
  if (hidden) return null;
  const view = forStudent(content, presentation);
  return anonymous && 'files' in view ? { ...view, files: null } : view;
}

/** The answer sheet of an off-screen exam. */
const sheetOf = (examId: string, design: ExamDesign): TakingPaper['sheet'] =>
  design.offScreen ? { document: design.offScreen.document?.shown ? documentOf(examId, design) : null } : null;

/** Lays a paper out for the taking page, by the design it was drawn from. */
export function takingPaper(
  {
    title,
    examId,
    design,
    deadline,
    extraPercent,
    onwardOnly = false,
    reached = 0,
    minutesPerQuestion = null,
    checkedOf = () => null,
    isHidden = () => false,
  }: {
    title: string;
    examId: string;
    design: ExamDesign;
    deadline: Instant | null;
    extraPercent: number;
    onwardOnly?: boolean;
    reached?: number;
    /** Time for each question that has none of its own. */
    minutesPerQuestion?: number | null;
    checkedOf?: (place: number, content: QuestionContent) => CheckedQuestion | null;
    /** What its student may not know of yet. */
    isHidden?: (place: number) => boolean;
  },
  places: readonly PaperPlace[],
  contentOf: (place: number) => QuestionContent,
  passages: ReadonlyMap<string, Rich>,
): TakingPaper {
  const rules = paperRules(design, places);
  const anonymous = design.purpose?.anonymous ?? false;
  return {
    title,
    instructions: design.instructions,
    anonymous,
    onwardOnly,
    reached,
    sheet: sheetOf(examId, design),
    choose: Object.fromEntries(choosePartsOf(design)),
    slots: places.map((place, i): TakingSlot => {
      const { page = i, required = false } = rules[i] ?? {};
      const limit = rules[i]?.limit ?? (minutesPerQuestion === null ? null : minutesPerQuestion * minute);
      return {
        slotId: place.slotId,
        number: i + 1,
        partId: place.partId,
        partTitle: place.partTitle,
        points: place.points,
        view: viewOf(
          contentOf(i),
          place.presentation,
          isHidden(i) || (limit !== null && place.openedAt === null),
          anonymous,
        ),
        passage: place.passageId,
        page,
        required,
        limit: limit === null ? null : limit * (1 + extraPercent / 100),
        checked: checkedOf(i, contentOf(i)),
        until: limit === null ? null : questionDeadline(limit, extraPercent, place.openedAt, deadline),
      };
    }),
    passages: Object.fromEntries(passages),
  };
}
