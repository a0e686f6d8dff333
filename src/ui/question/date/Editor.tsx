'use client';
import type { DateContent } from '@/core/question/types/date/content';
import { TextField } from '../../kit/Field';
import { contentProblem, type EditorProps } from '../editing';

export const DateEditor = ({ content, onChange, problems }: EditorProps<DateContent>) => (
  <div className="flex gap-3">
    {(['earliest', 'latest'] as const).map((end) => (
      <TextField
        key={end}
        type="date"
        label={end === 'earliest' ? 'Earliest date, if any' : 'Latest date, if any'}
        value={content[end] ?? ''}
        onChange={(event) => onChange({ ...content, [end]: event.target.value || null })}
        problem={contentProblem(problems, end)}
      />
    ))}
  </div>
);
