import type { ComponentType } from 'react';
import { richText } from '@/core/base/rich';
import type { QuestionResponse, ResponseOf, ShownQuestion, ViewOf } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { TextButton } from '../kit/TextButton';
import { QuestionPlayer } from '../question/QuestionPlayer';

type RowProps<View, Response> = {
  view: View;
  name: string;
  label: string;
  closed: boolean;
  value: Response | null | undefined;
  onRespond: (value: Response | null) => void;
};

type Picking<Type extends 'single-choice' | 'multiple-choice'> = RowProps<ViewOf<Type>, ResponseOf<Type>>;

const optionsOf = ({ choices }: ViewOf<'single-choice' | 'multiple-choice'>) =>
  choices.map((choice) => ({ key: choice.key, says: richText(choice.content) }));

const OneChoice = ({ view, name, label, closed, value, onRespond }: Picking<'single-choice'>) => (
  <Picks
    kind="radio"
    legend={`${label}: choose one`}
    name={name}
    closed={closed}
    options={optionsOf(view)}
    chosen={value ? [value.picked] : []}
    onPick={(picked) => onRespond({ picked })}
    onClear={() => onRespond(null)}
  />
);

function SeveralChoices({ view, name, label, closed, value, onRespond }: Picking<'multiple-choice'>) {
  const chosen = value?.picked ?? [];
  const pick = (key: string) => {
    const picked = chosen.includes(key) ? chosen.filter((one) => one !== key) : [...chosen, key];
    onRespond(picked.length ? { picked } : null);
  };
  return (
    <Picks
      kind="checkbox"
      legend={`${label}: choose all that are right`}
      name={name}
      closed={closed}
      options={optionsOf(view)}
      chosen={chosen}
      onPick={pick}
      onClear={() => onRespond(null)}
    />
  );
}

const truths = [
  { key: 'true', says: 'True' },
  { key: 'false', says: 'False' },
];

const TrueOrFalse = ({
  name,
  label,
  closed,
  value,
  onRespond,
}: RowProps<ViewOf<'true-false'>, ResponseOf<'true-false'>>) => (
  <Picks
    kind="radio"
    legend={`${label}: true or false`}
    name={name}
    closed={closed}
    options={truths}
    chosen={value ? [String(value.picked)] : []}
    onPick={(key) => onRespond({ picked: key === 'true' })}
    onClear={() => onRespond(null)}
  />
);

/** Whatever is not picked from a row of short choices, as everywhere else. */
const AsElsewhere = ({ view, name, closed, value, onRespond }: RowProps<ShownQuestion, QuestionResponse>) => (
  <QuestionPlayer
    view={view}
    name={name}
    disabled={closed}
    stemClass="sr-only"
    response={value ?? undefined}
    onRespond={(next) => onRespond(next ?? null)}
  />
);

/** The row of each type that has one of its own; null where it is answered as elsewhere. */
const rows: { [Type in QuestionType]: ComponentType<RowProps<ViewOf<Type>, ResponseOf<Type>>> | null } = {
  'single-choice': OneChoice,
  'multiple-choice': SeveralChoices,
  'true-false': TrueOrFalse,
  'short-text': null,
  numeric: null,
  'gap-fill': null,
  matching: null,
  ordering: null,
  written: null,
  'rating-scale': null,
  date: null,
};

/** How an item whose question stands on paper is answered on its row. */
export function AnswerRow(props: RowProps<ShownQuestion, QuestionResponse>) {
  const Row = (rows[props.view.type] ?? AsElsewhere) as ComponentType<RowProps<ShownQuestion, QuestionResponse>>;
  return <Row {...props} />;
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
      <TextButton
        disabled={closed}
        className={`px-1.5 text-sm ${chosen.length && !closed ? '' : 'invisible'}`}
        onClick={onClear}
      >
        Clear<span className="sr-only"> {legend}</span>
      </TextButton>
    </fieldset>
  );
}
