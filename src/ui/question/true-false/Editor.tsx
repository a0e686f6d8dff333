'use client';
import { emptyRich } from '@/core/base/rich';
import type { TrueFalseContent } from '@/core/question/types/true-false/content';
import { TextButton } from '../../kit/TextButton';
import { contentProblem, type EditorProps } from '../editing';
import { RichEditor } from '../rich/RichEditor';

/** Which of the two is right, with feedback for either where wanted. */
export function TrueFalseEditor({ content, onChange, problems }: EditorProps<TrueFalseContent>) {
  return (
    <fieldset>
      <legend className="mb-1 text-sm font-medium">The statement is</legend>
      {contentProblem(problems, 'answer') && (
        <p className="mb-1 text-sm text-brick">{contentProblem(problems, 'answer')}</p>
      )}
      {([true, false] as const).map((value) => {
        const part = value ? 'onTrue' : 'onFalse';
        const name = value ? 'True' : 'False';
        const feedback = content[part];
        return (
          <div
            key={name}
            className={`mb-2 border-l-[3px] pl-2 ${content.answer === value ? 'border-pine' : 'border-line'}`}
          >
            <label className="flex min-h-9 items-center gap-2">
              <input
                type="radio"
                name="statement-is"
                checked={content.answer === value}
                onChange={() => onChange({ ...content, answer: value })}
                className="size-4 accent-pine"
              />
              {name}
            </label>
            {feedback ? (
              <RichEditor
                low
                label={`Feedback for picking ${name.toLowerCase()}`}
                value={feedback}
                onChange={(rich) => onChange({ ...content, [part]: rich })}
              />
            ) : (
              <TextButton className="text-sm" onClick={() => onChange({ ...content, [part]: emptyRich })}>
                Add feedback for picking {name.toLowerCase()}
              </TextButton>
            )}
          </div>
        );
      })}
    </fieldset>
  );
}
