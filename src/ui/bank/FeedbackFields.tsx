import type { Problem } from '@/core/base/result';
import { emptyRich, type Rich } from '@/core/base/rich';
import type { Feedback } from '@/core/question/feedback';
import { TextButton } from '../kit/TextButton';
import { contentProblem } from '../question/editing';
import { RichEditor } from '../question/rich/RichEditor';

const feedbackParts = [
  ['right', 'Feedback when right'],
  ['wrong', 'Feedback when wrong'],
  ['solution', 'Worked solution'],
  ['hint', 'Hint'],
] as const;

type Props = {
  feedback: Feedback;
  problems: readonly Problem[];
  onChange: (part: keyof Feedback, rich: Rich | undefined) => void;
};

/** What a student may be told besides the key; a part is there only once it is asked for. */
export const FeedbackFields = ({ feedback, problems, onChange }: Props) => (
  <>
    {feedbackParts.map(([part, label]) => {
      const value = feedback[part];
      return value ? (
        <RichEditor
          key={part}
          low
          label={label}
          value={value}
          onChange={(rich) => onChange(part, rich)}
          problem={contentProblem(problems, `feedback.${part}`)}
        />
      ) : null;
    })}
    <p className="flex flex-wrap gap-x-4 text-sm">
      {feedbackParts
        .filter(([part]) => !feedback[part])
        .map(([part, label]) => (
          <TextButton key={part} onClick={() => onChange(part, emptyRich)}>
            Add {label.toLowerCase()}
          </TextButton>
        ))}
    </p>
  </>
);
