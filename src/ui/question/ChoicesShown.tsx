import { choiceLabel } from '@/core/question/choiceLabel';
import type { ShownChoice } from '@/core/question/types/single-choice/student';
import { RichText } from '../kit/RichText';

type Props = { choices: readonly ShownChoice[]; labels?: string | undefined; picked: readonly string[] };

/** Choices in the order of the paper, with those that were picked. */
export const ChoicesShown = ({ choices, labels, picked }: Props) => (
  <ul className="border-y border-line">
    {choices.map((choice, i) => {
      const chosen = picked.includes(choice.key);
      return (
        <li
          key={choice.key}
          className={`flex items-start gap-2 border-b border-line px-2 py-1.5 last:border-b-0 ${chosen ? 'bg-prussian-wash' : ''}`}
        >
          {labels !== 'none' && <span className="min-w-5 shrink-0 text-ink-2">{choiceLabel(labels, i)}</span>}
          <RichText rich={choice.content} className="min-w-0 flex-1" />
          {chosen && <span className="shrink-0 text-sm">picked</span>}
        </li>
      );
    })}
  </ul>
);

/** What was answered in words; nothing where nothing was. */
export const AnswerShown = ({ text }: { text: string | undefined }) =>
  text ? <p className="bg-prussian-wash px-2 py-1 whitespace-pre-wrap">{text}</p> : null;
