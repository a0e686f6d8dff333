'use client';
import { useState } from 'react';
import type { CategoryNode } from '@/core/bank/categoryTree';
import { difficulties } from '@/core/question/types';
import { Button } from '../kit/Button';
import type { InputOf } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { SelectField, TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { TextButton } from '../kit/TextButton';
import { CategoryField } from './CategoryField';
import type { Objective } from './model';

/** A change of many questions, as it is asked for. */
export type BulkAsked = InputOf<'editMany'>['change'];

type Props = {
  /** How many are selected, and how many match altogether. */
  count: number;
  total: number;
  all: boolean;
  /** Whether retired questions are selected: what can be done with them is to bring them back. */
  retired: boolean;
  categories: CategoryNode[];
  objectives: Objective[];
  tags: string[];
  otherBanks: { id: string; name: string }[];
  busy: boolean;
  problem: string | null;
  onAll: () => void;
  onNone: () => void;
  onChange: (change: BulkAsked) => void;
  onCopy: (bankId: string) => void;
};

const acts = {
  points: 'Set the points',
  difficulty: 'Set the difficulty',
  move: 'Move to a category',
  'add-tags': 'Add a tag',
  'remove-tags': 'Remove a tag',
  'add-objectives': 'Add an objective',
  'remove-objectives': 'Remove an objective',
  shuffle: 'Shuffle choices',
  choices: 'Reduce the choices',
  spread: 'Spread the right answers over the places',
  copy: 'Copy to another bank',
  retire: 'Retire',
  'bring-back': 'Bring back',
} as const;
type Act = keyof typeof acts;

/** What can be done with the selected questions: one thing, with one value, and the count it is done to. */
export function BulkBar(props: Props) {
  const {
    count,
    total,
    all,
    retired,
    categories,
    objectives,
    tags,
    otherBanks,
    busy,
    problem,
    onAll,
    onNone,
    onChange,
    onCopy,
  } = props;
  const [act, setAct] = useState<Act>(retired ? 'bring-back' : 'add-tags');
  const [asks, setAsks] = useState(false);
  const [value, setValue] = useState('');
  const choose = (next: Act) => {
    setAct(next);
    setValue(first(next));
  };
  const first = (next: Act): string =>
    (
      ({
        move: categories[0]?.id ?? '',
        difficulty: 'easy',
        'add-objectives': objectives[0]?.id ?? '',
        'remove-objectives': objectives[0]?.id ?? '',
        'remove-tags': tags[0] ?? '',
        shuffle: 'on',
        choices: '4',
        copy: otherBanks[0]?.id ?? '',
      }) as Partial<Record<Act, string>>
    )[next] ?? '';
  const run = () => {
    switch (act) {
      case 'points':
        return onChange({ kind: act, points: numberIn(value) });
      case 'difficulty':
        return onChange({ kind: act, difficulty: difficulties.find((one) => one === value) ?? null });
      case 'move':
        return onChange({ kind: act, categoryId: value });
      case 'add-tags':
      case 'remove-tags':
        return onChange({
          kind: act,
          tags: value
            .split(',')
            .map((tag) => tag.trim())
            .filter(Boolean),
        });
      case 'add-objectives':
      case 'remove-objectives':
        return onChange({ kind: act, objectives: value ? [value] : [] });
      case 'shuffle':
        return onChange({ kind: act, shuffle: value === 'on' });
      case 'choices':
        return onChange({ kind: act, count: Number(value) });
      case 'copy':
        return onCopy(value);
      default:
        return onChange({ kind: act });
    }
  };
  const pick = (label: string, options: [string, string][]) => (
    <SelectField
      quiet
      label={label}
      className="min-w-0 flex-1"
      value={value}
      onChange={(event) => setValue(event.target.value)}
    >
      {options.map(([id, name]) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </SelectField>
  );
  return (
    <section aria-label="Selected questions" className="border-b border-line bg-prussian-wash p-2 text-sm">
      <p className="mb-1 flex flex-wrap gap-x-3">
        <span role="status" className="font-medium">
          {all ? `All ${count} that match` : `${count} selected`}
        </span>
        {!all && total > count && <TextButton onClick={onAll}>Select all {total} that match</TextButton>}
        <TextButton onClick={onNone}>Select none</TextButton>
      </p>
      <form
        className="flex flex-wrap items-start gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (act === 'retire' && count > 1) setAsks(true);
          else run();
        }}
      >
        <SelectField
          quiet
          label="What to do"
          className="w-44"
          value={act}
          onChange={(event) => choose(event.target.value as Act)}
        >
          {(Object.keys(acts) as Act[])
            .filter((one) => (one === 'bring-back') === retired)
            .filter((one) => one !== 'copy' || otherBanks.length > 0)
            .map((one) => (
              <option key={one} value={one}>
                {acts[one]}
              </option>
            ))}
        </SelectField>
        {act === 'points' && (
          <NumberField
            quiet
            label="Points"
            className="w-24"
            value={value}
            onChange={(event) => setValue(event.target.value)}
          />
        )}
        {act === 'difficulty' &&
          pick('Difficulty', [...difficulties.map((one): [string, string] => [one, one]), ['none', 'not set']])}
        {act === 'move' && (
          <CategoryField
            quiet
            label="Category"
            className="min-w-0 flex-1"
            categories={categories}
            value={value}
            onPick={setValue}
          />
        )}
        {act === 'add-tags' && (
          <TextField
            quiet
            label="Tag"
            placeholder="tag, another tag"
            className="min-w-0 flex-1"
            value={value}
            onChange={(event) => setValue(event.target.value)}
          />
        )}
        {act === 'remove-tags' &&
          pick(
            'Tag',
            tags.map((tag) => [tag, tag]),
          )}
        {(act === 'add-objectives' || act === 'remove-objectives') &&
          pick(
            'Objective',
            objectives.map((one) => [one.id, `${one.code} ${one.wording}`]),
          )}
        {act === 'shuffle' &&
          pick('Shuffling', [
            ['on', 'on'],
            ['off', 'off'],
          ])}
        {act === 'choices' &&
          pick(
            'Choices',
            [2, 3, 4, 5, 6].map((n) => [String(n), `to ${n}`]),
          )}
        {act === 'copy' &&
          pick(
            'Bank',
            otherBanks.map((bank) => [bank.id, bank.name]),
          )}
        <Button type="submit" look={act === 'retire' ? 'grave' : 'main'} disabled={busy}>
          {act === 'retire' ? `Retire ${count}` : act === 'bring-back' ? `Bring back ${count}` : `Do it for ${count}`}
        </Button>
      </form>
      {asks && (
        <Decision
          title={`Retire ${count} questions?`}
          act={`Retire ${count}`}
          look="grave"
          busy={busy}
          onClose={() => setAsks(false)}
          onAct={() => {
            setAsks(false);
            run();
          }}
        >
          <p>
            No exam draws them any more; papers that hold them keep them. They can be found again by the filter
            “retired”, and brought back.
          </p>
        </Decision>
      )}
      {problem && (
        <p role="alert" className="mt-1 text-brick">
          {problem}
        </p>
      )}
    </section>
  );
}
