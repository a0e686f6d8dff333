import { richText } from '@/core/base/rich';
import { counted } from '@/core/base/words';
import type { QuestionContent } from '@/core/question/content';
import type { PreviewItem } from '@/server/bringIn/preview';
import { QuestionReview } from '../question/QuestionReview';

const stateSaid: Record<PreviewItem['state'], { says: string; look: string }> = {
  new: { says: 'new', look: 'text-pine' },
  ask: { says: 'to be decided', look: 'text-saffron' },
  there: { says: 'already there', look: 'text-ink-2' },
  unreadable: { says: 'cannot be read', look: 'text-brick' },
};

const problemLook = { error: 'text-brick', ask: 'text-saffron', warning: 'text-ink-2' };

/** What is said of the answers: it is not part of the paper, and would not be seen otherwise. */
function feedbackSaid(content: QuestionContent): string[] {
  const { solution, hint } = content.feedback;
  const choices = 'choices' in content ? content.choices.filter((choice) => choice.feedback).length : 0;
  const lines = [
    solution && `Feedback: ${richText(solution)}`,
    hint && `Hint: ${richText(hint)}`,
    choices > 0 && `Feedback of its own for ${counted(choices, 'choice')}.`,
  ];
  return lines.filter((line): line is string => Boolean(line));
}

type Props = { item: PreviewItem; isTaken: boolean; onToggle: () => void };

/** A question as it was read, whether it is taken, and what has to be decided or mended first. */
export function BroughtQuestion({ item, isTaken, onToggle }: Props) {
  const { says, look } = stateSaid[item.state];
  return (
    <div className="flex gap-3">
      <input
        type="checkbox"
        aria-label={`Bring in ${item.title || `what begins at ${item.at}`}`}
        disabled={!item.content}
        checked={isTaken}
        onChange={onToggle}
        className="mt-1 size-4 shrink-0 accent-prussian"
      />
      <div className="min-w-0 flex-1">
        <p className="flex flex-wrap justify-between gap-x-3 text-sm text-ink-2">
          <span>
            {[item.type.toLowerCase(), item.category, item.difficulty, item.points && `worth ${item.points}`]
              .filter(Boolean)
              .join(' · ')}
          </span>
          <span className={`font-medium ${look}`}>{says}</span>
        </p>
        {item.problems.map((problem) => (
          <p key={problem.message} className={`text-sm ${problemLook[problem.severity]}`}>
            {problem.message}
          </p>
        ))}
        {item.state === 'ask' && (
          <p className="text-sm text-ink-2">
            {isTaken ? 'Taken as it stands here.' : 'Tick it to take it as it stands here, or change the text.'}
          </p>
        )}
        {item.content ? <QuestionReview content={item.content} /> : <p className="font-serif">{item.title}</p>}
        {item.content &&
          feedbackSaid(item.content).map((said) => (
            <p key={said} className="text-sm text-ink-2">
              {said}
            </p>
          ))}
      </div>
    </div>
  );
}
