import { isEmptyRich } from '@/core/base/rich';
import { choiceLabel } from '@/core/question/choiceLabel';
import type { Choice } from '@/core/question/choices';
import type { Presentation } from '@/core/question/presentation';
import { RichText } from '../kit/RichText';
import { Verdict } from './reviewing';

type Props = { choices: Choice[]; presentation: Presentation; picked: string[] | null };

/** Choices in the paper's order with the right ones marked, those picked, and the feedback of each. */
export function ChoiceReview({ choices, presentation, picked }: Props) {
  const shown = presentation.choices?.flatMap(({ key, id }) => {
    const choice = choices.find((one) => one.id === id);
    return choice ? [{ key, choice }] : [];
  });
  return (
    <ul>
      {(shown ?? choices.map((choice) => ({ key: '', choice }))).map(({ key, choice }, i) => {
        const chosen = picked?.includes(key) ?? false;
        return (
          <li
            key={choice.id}
            className={`flex items-start gap-2 px-2 py-1 ${choice.right ? 'bg-pine-wash' : chosen ? 'bg-brick-wash' : ''}`}
          >
            {presentation.labels !== 'none' && (
              <span className="min-w-5 shrink-0 text-ink-2">{choiceLabel(presentation.labels, i)}</span>
            )}
            <div className="min-w-0 flex-1">
              <RichText rich={choice.content} />
              {choice.feedback && !isEmptyRich(choice.feedback) && (
                <RichText rich={choice.feedback} className="text-sm text-ink-2" />
              )}
            </div>
            {chosen && <span className="text-sm">picked</span>}
            {(choice.right || chosen) && <Verdict right={choice.right} />}
          </li>
        );
      })}
    </ul>
  );
}
