'use client';
import type { QuestionContent } from '@/core/question/content';
import type { EditorProps } from './editing';
import { NumericEditor } from './numeric/Editor';
import { SingleChoiceEditor } from './single-choice/Editor';
import { WrittenEditor } from './written/Editor';

/** The part of the editor that differs from type to type. */
export function QuestionEditor({ content, ...rest }: EditorProps<QuestionContent>) {
  switch (content.type) {
    case 'single-choice':
      return <SingleChoiceEditor content={content} {...rest} />;
    case 'numeric':
      return <NumericEditor content={content} {...rest} />;
    case 'written':
      return <WrittenEditor content={content} {...rest} />;
  }
}
