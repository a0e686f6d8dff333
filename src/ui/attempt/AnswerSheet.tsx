'use client';
import { richText } from '@/core/base/rich';
import { pointsSaid } from '@/core/base/words';
import type { QuestionResponse, ShownQuestion } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { QuestionPlayer } from '../question/QuestionPlayer';
import type { Answer, TakingSlot } from './opening';

type Props = {
  slots: readonly TakingSlot[];
  answers: Record<string, Answer>;
  heading: (number: number, element: HTMLHeadingElement | null) => void;
  closed: boolean;
  onRespond: (slotId: string, value: QuestionResponse | null, type: QuestionType) => void;
  onComeBack: (slotId: string, comeBack: boolean) => void;
};

/** A page of items whose questions stand on paper: one row for each, its choices side by side. */
export function AnswerSheet({ slots, answers, heading, closed, onRespond, onComeBack }: Props) {
  return (
    <ol aria-label="Items" className="border border-line bg-sheet">
      {slots.map((slot) => {
        const answer = answers[slot.slotId];
        const { view } = slot;
        if (!view || !('stem' in view)) return null;
        const label = richText(view.stem);
        return (
          <li
            key={slot.slotId}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3 py-1.5 last:border-b-0 sm:px-4"
          >
            <div className="w-24 flex-1 sm:flex-none">
              <h2
                ref={(element) => heading(slot.number, element)}
                tabIndex={-1}
                className="font-sans text-base font-medium outline-none"
              >
                {label}
              </h2>
              <span className="text-sm text-ink-2">{pointsSaid(slot.points)}</span>
            </div>
            <div className="order-3 min-w-0 basis-full sm:order-none sm:flex-1 sm:basis-0">
              <Row
                view={view}
                name={slot.slotId}
                label={label}
                closed={closed}
                value={answer?.value as QuestionResponse | null | undefined}
                onRespond={(value) => onRespond(slot.slotId, value, view.type)}
              />
            </div>
            <label className="flex min-h-11 items-center gap-1.5 text-sm text-ink-2">
              <input
                type="checkbox"
                className="size-4 accent-saffron"
                disabled={closed}
                checked={answer?.comeBack ?? false}
                onChange={(event) => onComeBack(slot.slotId, event.target.checked)}
              />
              come back<span className="sr-only"> to {label} later</span>
            </label>
          </li>
        );
      })}
    </ol>
  );
}

type RowProps = {
  view: ShownQuestion;
  name: string;
  label: string;
  closed: boolean;
  value: QuestionResponse | null | undefined;
  onRespond: (value: QuestionResponse | null) => void;
};

function Row({ view, name, label, closed, value, onRespond }: RowProps) {
  if (view.type === 'single-choice' || view.type === 'multiple-choice') {
    const several = view.type === 'multiple-choice';
    const picked = value && 'picked' in value ? value.picked : undefined;
    const chosen: unknown[] = Array.isArray(picked) ? picked : picked === undefined ? [] : [picked];
    const pick = (key: string) => {
      if (!several) return onRespond({ picked: key });
      const next = chosen.includes(key) ? chosen.filter((one) => one !== key) : [...chosen, key];
      onRespond(next.length ? { picked: next as string[] } : null);
    };
    return (
      <Picks
        kind={several ? 'checkbox' : 'radio'}
        legend={`${label}: ${several ? 'choose all that are right' : 'choose one'}`}
        name={name}
        closed={closed}
        options={view.choices.map((choice) => ({ key: choice.key, says: richText(choice.content) }))}
        chosen={chosen}
        onPick={pick}
        onClear={() => onRespond(null)}
      />
    );
  }
  if (view.type === 'true-false')
    return (
      <Picks
        kind="radio"
        legend={`${label}: true or false`}
        name={name}
        closed={closed}
        options={[
          { key: 'true', says: 'True' },
          { key: 'false', says: 'False' },
        ]}
        chosen={value && 'picked' in value ? [String(value.picked)] : []}
        onPick={(key) => onRespond({ picked: key === 'true' })}
        onClear={() => onRespond(null)}
      />
    );
  return (
    <QuestionPlayer
      view={view}
      name={name}
      disabled={closed}
      stemClass="sr-only"
      response={value ?? undefined}
      onRespond={(next) => onRespond(next ?? null)}
    />
  );
}

type PicksProps = {
  kind: 'radio' | 'checkbox';
  legend: string;
  name: string;
  closed: boolean;
  options: readonly { key: string; says: string }[];
  chosen: readonly unknown[];
  onPick: (key: string) => void;
  onClear: () => void;
};

/** Short choices side by side, each as large as a finger; what is picked is filled in, as on a sheet of paper. */
function Picks({ kind, legend, name, closed, options, chosen, onPick, onClear }: PicksProps) {
  return (
    <fieldset disabled={closed} className="flex flex-wrap items-center gap-1.5">
      <legend className="sr-only">{legend}</legend>
      {options.map(({ key, says }) => (
        <label
          key={key}
          className="relative flex h-11 min-w-11 items-center justify-center rounded-sm border border-edge px-2 font-medium has-checked:border-prussian has-checked:bg-prussian has-checked:text-white has-focus-visible:outline-2 has-focus-visible:outline-offset-2 has-focus-visible:outline-prussian"
        >
          <input
            type={kind}
            name={name}
            className="absolute inset-0 cursor-pointer opacity-0"
            checked={chosen.includes(key)}
            onChange={() => onPick(key)}
          />
          {says}
        </label>
      ))}
      <button
        type="button"
        className={`px-1.5 text-sm text-prussian underline ${chosen.length ? '' : 'invisible'}`}
        onClick={onClear}
      >
        Clear<span className="sr-only"> {legend}</span>
      </button>
    </fieldset>
  );
}
