'use client';
import type { ShortTextContent } from '@/core/question/types/short-text/content';
import type { EditorProps } from '../editing';
import { AcceptedTexts } from './AcceptedTexts';

export const ShortTextEditor = ({ content, onChange, problems }: EditorProps<ShortTextContent>) => (
  <AcceptedTexts
    value={content}
    onChange={({ accepted, matching }) => onChange({ ...content, accepted, matching })}
    problems={problems}
    path=""
    mayBeEmpty
  />
);
