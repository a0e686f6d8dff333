'use client';
import type { ComponentType } from 'react';
import { freeId } from '@/core/question/choices';
import type { ContentOf, QuestionContent } from '@/core/question/content';
import type { QuestionType } from '@/core/question/types';
import { blankGap } from '@/core/question/types/gap-fill/content';
import { gapAnswer } from '@/core/question/types/gap-fill/score';
import { DateEditor } from './date/Editor';
import type { EditorProps } from './editing';
import { GapFillEditor } from './gap-fill/Editor';
import { MatchingEditor } from './matching/Editor';
import { MultipleChoiceEditor } from './multiple-choice/Editor';
import { NumericEditor } from './numeric/Editor';
import { OrderingEditor } from './ordering/Editor';
import { RatingScaleEditor } from './rating-scale/Editor';
import { ShortTextEditor } from './short-text/Editor';
import { SingleChoiceEditor } from './single-choice/Editor';
import { TrueFalseEditor } from './true-false/Editor';
import { WrittenEditor } from './written/Editor';

/** How questions of a type are written. */
type Editing<Content extends QuestionContent> = {
  Editor: ComponentType<EditorProps<Content>>;
  /** What its text is called beside the name of the type. */
  stem: string;
  /** The content with one more gap that words of the text become; null where a text takes none. */
  makeGap: ((content: Content, words: string) => { content: Content; id: string }) | null;
  /** What a gap's chip says: its right answer. */
  gapText: (content: Content, id: string) => string;
};

const asked = { stem: 'the question', makeGap: null, gapText: () => '' };

const editors: { [Type in QuestionType]: Editing<ContentOf<Type>> } = {
  'single-choice': { ...asked, Editor: SingleChoiceEditor },
  'multiple-choice': { ...asked, Editor: MultipleChoiceEditor },
  'true-false': { ...asked, Editor: TrueFalseEditor, stem: 'the statement' },
  'short-text': { ...asked, Editor: ShortTextEditor },
  numeric: { ...asked, Editor: NumericEditor },
  'gap-fill': {
    Editor: GapFillEditor,
    stem: 'the text with its gaps',
    makeGap: (content, words) => {
      const id = freeId(content.gaps, 'g');
      return { id, content: { ...content, gaps: [...content.gaps, blankGap(id, 'text', words)] } };
    },
    gapText: ({ gaps }, id) => {
      const gap = gaps.find((one) => one.id === id);
      return gap ? gapAnswer(gap) : '';
    },
  },
  matching: { ...asked, Editor: MatchingEditor },
  ordering: { ...asked, Editor: OrderingEditor },
  written: { ...asked, Editor: WrittenEditor },
  'rating-scale': { ...asked, Editor: RatingScaleEditor },
  date: { ...asked, Editor: DateEditor },
};

/** How questions of a type are written that is known only when it runs. */
export const editingOf = (type: QuestionType): Editing<QuestionContent> =>
  editors[type] as unknown as Editing<QuestionContent>;

/** The part of the editor that differs from type to type. */
export function QuestionEditor(props: EditorProps<QuestionContent>) {
  const { Editor } = editingOf(props.content.type);
  return <Editor {...props} />;
}
