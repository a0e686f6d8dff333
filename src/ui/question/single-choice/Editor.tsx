'use client';
import type { SingleChoiceContent } from '@/core/question/types/single-choice/content';
import { ChoicesEditor } from '../ChoicesEditor';
import type { EditorProps } from '../editing';

export const SingleChoiceEditor = (props: EditorProps<SingleChoiceContent>) => <ChoicesEditor {...props} />;
