'use client';
import type { DateContent } from '@/core/question/types/date/content';
import { WhenField } from '../../kit/When';
import { contentProblem, type EditorProps } from '../editing';

export const DateEditor = ({ content, onChange, problems }: EditorProps<DateContent>) => (
  <div className="flex gap-3">
    {(['earliest', 'latest'] as const).map((end) => (
      <WhenField
        key={end}
        kind="day"
        className="w-60"
        label={end === 'earliest' ? 'Earliest date, if any' : 'Latest date, if any'}
        value={content[end] ?? ''}
        onChange={(day) => onChange({ ...content, [end]: day || null })}
        problem={contentProblem(problems, end)}
      />
    ))}
  </div>
);
