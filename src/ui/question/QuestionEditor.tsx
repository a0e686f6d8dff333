'use client';
import type { ComponentType } from 'react';
import type { ContentOf, QuestionContent } from '@/core/question/content';
import type { QuestionType } from '@/core/question/types';
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

const editors: { [Type in QuestionType]: ComponentType<EditorProps<ContentOf<Type>>> } = {
  'single-choice': SingleChoiceEditor,
  'multiple-choice': MultipleChoiceEditor,
  'true-false': TrueFalseEditor,
  'short-text': ShortTextEditor,
  numeric: NumericEditor,
  'gap-fill': GapFillEditor,
  matching: MatchingEditor,
  ordering: OrderingEditor,
  written: WrittenEditor,
  'rating-scale': RatingScaleEditor,
  date: DateEditor,
};

/** The part of the editor that differs from type to type. */
export function QuestionEditor(props: EditorProps<QuestionContent>) {
  const Editor = editors[props.content.type] as ComponentType<EditorProps<QuestionContent>>;
  return <Editor {...props} />;
}
