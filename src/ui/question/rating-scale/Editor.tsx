'use client';
import type { RatingScaleContent } from '@/core/question/types/rating-scale/content';
import { SelectField, TextField } from '../../kit/Field';
import { contentProblem, type EditorProps } from '../editing';

export const RatingScaleEditor = ({ content, onChange, problems }: EditorProps<RatingScaleContent>) => (
  <div className="flex flex-wrap items-end gap-3">
    <SelectField
      label="Steps"
      value={content.steps}
      onChange={(event) => onChange({ ...content, steps: Number(event.target.value) })}
    >
      {[2, 3, 4, 5, 6, 7, 8, 9, 10, 11].map((steps) => (
        <option key={steps}>{steps}</option>
      ))}
    </SelectField>
    <TextField
      label="What step 1 means"
      value={content.low}
      onChange={(event) => onChange({ ...content, low: event.target.value })}
      problem={contentProblem(problems, 'low')}
    />
    <TextField
      label={`What step ${content.steps} means`}
      value={content.high}
      onChange={(event) => onChange({ ...content, high: event.target.value })}
      problem={contentProblem(problems, 'high')}
    />
    <label className="flex min-h-9 items-center gap-2">
      <input
        type="checkbox"
        className="accent-prussian"
        checked={content.cannotSay}
        onChange={(event) => onChange({ ...content, cannotSay: event.target.checked })}
      />
      Offer “I cannot say”
    </label>
  </div>
);
