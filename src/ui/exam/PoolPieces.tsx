'use client';
import { useEffect, useState } from 'react';
import type { PoolRule } from '@/core/exam/design';
import { questionTypeNames } from '@/core/question/definitions';
import { difficulties, questionTypes } from '@/core/question/types';
import type { Choosable } from '@/server/exam/exams';
import { Button, RemoveButton } from '../kit/Button';
import { TextField } from '../kit/Field';
import { fewEnoughToSee, holds } from '../kit/Find';
import { NumberField } from '../kit/NumberField';
import { SentencePiece } from '../kit/SentencePiece';
import { Tick } from '../kit/Tick';
import { SuccessRangeFields, successSaid } from '../question/SuccessRangeFields';

export type { Choosable };

/** All that a pool can name, by the names people know. */
export type Sources = {
  categories: { id: string; name: string }[];
  exams: { id: string; title: string }[];
  objectives: { id: string; code: string; wording: string }[];
  tags: string[];
  /** The questions that can be put on an exam; empty until they are asked for, since there may be thousands. */
  choosable: Choosable[];
  needChoosable?: () => void;
};

type Props = { pool: PoolRule; sources: Sources; onChange: (pool: PoolRule) => void };

const toggled = <T,>(all: readonly T[] | undefined, one: T): T[] =>
  all?.includes(one) ? all.filter((other) => other !== one) : [...(all ?? []), one];

/** "Heights, Streams alone, 2 exams and 3 picked questions". */
function fromSaid(pool: PoolRule, sources: Sources): { text: string; wrong: boolean } {
  const categories = pool.categories.map(({ id, below }) => {
    const name = sources.categories.find((one) => one.id === id)?.name;
    return name ? `${name}${below ? '' : ' alone'}` : null;
  });
  const exams = (pool.exams ?? []).map((id) => sources.exams.find((one) => one.id === id)?.title ?? null);
  const picked = pool.questions?.length ?? 0;
  const parts = [
    ...categories.map((one) => one ?? 'a category that is gone'),
    ...exams.map((one) => (one ? `the questions of ${one}` : 'an exam that is gone')),
    ...(picked ? [picked === 1 ? '1 picked question' : `${picked} picked questions`] : []),
  ];
  const shown = parts.length > 3 ? [...parts.slice(0, 2), `${parts.length - 2} more`] : parts;
  const text =
    shown.length === 0
      ? 'nowhere yet'
      : shown.length === 1
        ? shown[0]
        : `${shown.slice(0, -1).join(', ')} or ${shown.at(-1)}`;
  return { text: text ?? '', wrong: parts.length === 0 || categories.includes(null) || exams.includes(null) };
}

/** How often a narrowing property is said in a sentence: only where it is set. */
function narrowings(pool: PoolRule, sources: Sources): { key: string; name: string; said: string | null }[] {
  const code = (id: string) => sources.objectives.find((one) => one.id === id)?.code ?? 'one that is gone';
  const or = (all: readonly string[]) => (all.length ? all.join(' or ') : null);
  return [
    { key: 'difficulty', name: 'Difficulty', said: or(pool.difficulties) },
    { key: 'type', name: 'Type', said: or((pool.types ?? []).map((type) => questionTypeNames[type].toLowerCase())) },
    {
      key: 'objective',
      name: 'Objective',
      said: pool.objectives?.length ? `objective ${or(pool.objectives.map(code))}` : null,
    },
    { key: 'tag', name: 'Tag', said: pool.tags?.length ? `tagged ${or(pool.tags)}` : null },
    { key: 'success', name: 'Success rate', said: pool.success ? successSaid(pool.success) : null },
    { key: 'rest', name: 'Rest', said: pool.restDays ? `not used for ${pool.restDays} days` : null },
  ];
}

/** What a pool says, without anything to press. */
export const poolSaid = (pool: PoolRule, sources: Sources): string =>
  [fromSaid(pool, sources).text, ...narrowings(pool, sources).flatMap(({ said }) => said ?? [])].join(', ');

/** Where a draw takes its questions from and what they must be: a piece for each thing that is said. */
export function PoolPieces({ pool, sources, onChange }: Props) {
  const from = fromSaid(pool, sources);
  const all = narrowings(pool, sources);
  return (
    <>
      <SentencePiece says={from.text} label={`Where from: ${from.text}`} wrong={from.wrong}>
        {(close) => (
          <div className="max-h-[26rem] w-80 overflow-y-auto">
            <From pool={pool} sources={sources} onChange={onChange} />
            <Button onClick={close}>Done</Button>
          </div>
        )}
      </SentencePiece>
      {all.map(
        ({ key, name, said }) =>
          said !== null && (
            <span key={key}>
              ,{' '}
              <SentencePiece says={said} label={`${name}: ${said}`}>
                {(close) => (
                  <div className="max-h-96 w-64 overflow-y-auto">
                    <Narrowing which={key} pool={pool} sources={sources} onChange={onChange} />
                    <Button className="mt-2" onClick={close}>
                      Done
                    </Button>
                  </div>
                )}
              </SentencePiece>
            </span>
          ),
      )}
    </>
  );
}

/** What opens everything else that a pool can be narrowed by; it stands behind the sentence, of which it is no part. */
export function NarrowPiece({ pool, sources, onChange }: Props) {
  const all = narrowings(pool, sources);
  return (
    <SentencePiece quiet says="narrow" label="Narrow the pool by other properties">
      {(close) => (
        <div className="max-h-96 w-72 overflow-y-auto">
          {all.map(({ key, name, said }) => (
            <details key={key} name="narrowing" className="border-b border-line py-1">
              <summary className="font-medium">
                {name}
                {said !== null && <span className="font-normal text-ink-2">: {said}</span>}
              </summary>
              <Narrowing which={key} pool={pool} sources={sources} onChange={onChange} />
            </details>
          ))}
          <Button className="mt-2" onClick={close}>
            Done
          </Button>
        </div>
      )}
    </SentencePiece>
  );
}

function From({ pool, sources, onChange }: Props) {
  const [find, setFind] = useState('');
  const [findCategory, setFindCategory] = useState('');
  const { needChoosable } = sources;
  useEffect(() => needChoosable?.(), [needChoosable]);
  const chosen = new Map(pool.categories.map((one) => [one.id, one]));
  const picked = pool.questions ?? [];
  const isLooking = find.trim() !== '';
  const found = isLooking ? sources.choosable.filter((one) => holds(find, one.name, one.category)).slice(0, 12) : [];
  // What is ticked stays in view, whatever is looked for.
  const categories = sources.categories.filter((one) => chosen.has(one.id) || holds(findCategory, one.name));
  const named = new Map(sources.choosable.map((one) => [one.id, one.name]));
  const gone = pool.categories.filter((one) => !sources.categories.some((other) => other.id === one.id));
  const goneExams = (pool.exams ?? []).filter((id) => !sources.exams.some((one) => one.id === id));
  return (
    <>
      <fieldset>
        <legend className="text-sm font-medium">Any of these categories</legend>
        {gone.map((one) => (
          <Tick
            key={one.id}
            on
            onChange={() => onChange({ ...pool, categories: pool.categories.filter(({ id }) => id !== one.id) })}
          >
            <span className="text-brick">a category that is gone</span>
          </Tick>
        ))}
        {sources.categories.length > fewEnoughToSee && (
          <TextField
            quiet
            label="Find a category"
            placeholder="Find a category"
            value={findCategory}
            onChange={(event) => setFindCategory(event.target.value)}
          />
        )}
        {categories.length === 0 && <p className="text-sm text-ink-2">No category is called so.</p>}
        {categories.map((one) => {
          const own = chosen.get(one.id);
          return (
            <div key={one.id}>
              <Tick
                on={Boolean(own)}
                onChange={() =>
                  onChange({
                    ...pool,
                    categories: own
                      ? pool.categories.filter(({ id }) => id !== one.id)
                      : [...pool.categories, { id: one.id, below: true }],
                  })
                }
              >
                {one.name}
              </Tick>
              {own && (
                <label className="ml-7 flex items-center gap-2 text-sm">
                  <input
                    type="checkbox"
                    className="accent-prussian"
                    checked={own.below}
                    onChange={(event) =>
                      onChange({
                        ...pool,
                        categories: pool.categories.map((each) =>
                          each.id === one.id ? { ...each, below: event.target.checked } : each,
                        ),
                      })
                    }
                  />
                  with everything below it
                </label>
              )}
            </div>
          );
        })}
      </fieldset>
      {(sources.exams.length > 0 || goneExams.length > 0) && (
        <fieldset className="mt-2 border-t border-line pt-2">
          <legend className="text-sm font-medium">Whatever these exams can ask</legend>
          {goneExams.map((id) => (
            <Tick key={id} on onChange={() => onChange({ ...pool, exams: toggled(pool.exams, id) })}>
              <span className="text-brick">an exam that is gone</span>
            </Tick>
          ))}
          {sources.exams.map((one) => (
            <Tick
              key={one.id}
              on={pool.exams?.includes(one.id) ?? false}
              onChange={() => onChange({ ...pool, exams: toggled(pool.exams, one.id) })}
            >
              {one.title}
            </Tick>
          ))}
        </fieldset>
      )}
      <fieldset className="my-2 border-y border-line py-2">
        <legend className="text-sm font-medium">Questions picked by hand</legend>
        {picked.map((id) => (
          <p key={id} className="flex items-center gap-2">
            <span className={`min-w-0 flex-1 truncate ${named.has(id) ? '' : 'text-brick'}`}>
              {named.get(id) ?? 'a question that is gone'}
            </span>
            <RemoveButton
              label={`Leave out ${named.get(id) ?? 'the question that is gone'}`}
              onClick={() => onChange({ ...pool, questions: picked.filter((one) => one !== id) })}
            />
          </p>
        ))}
        <TextField
          quiet
          label="Find a question to pick"
          placeholder="Find a question to pick"
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        {found.map((one) => (
          <Tick
            key={one.id}
            on={picked.includes(one.id)}
            onChange={() => onChange({ ...pool, questions: toggled(picked, one.id) })}
          >
            {one.name} <span className="text-sm text-ink-2">{one.category}</span>
          </Tick>
        ))}
        {isLooking && found.length === 0 && <p className="text-sm text-ink-2">No question has these words.</p>}
      </fieldset>
    </>
  );
}

type TicksProps<Value extends string> = {
  legend: string;
  options: readonly { value: Value; label: string }[];
  chosen: readonly Value[] | undefined;
  onChange: (chosen: Value[]) => void;
  /** What to say where there is nothing to choose from. */
  empty?: string;
};

/** Any number of values; none means any. */
function Ticks<Value extends string>({ legend, options, chosen, onChange, empty }: TicksProps<Value>) {
  return (
    <fieldset>
      <legend className="sr-only">{legend}</legend>
      {options.length === 0 && <p className="px-1 text-ink-2">{empty}</p>}
      {options.map(({ value, label }) => (
        <Tick
          key={value}
          on={chosen?.includes(value) ?? false}
          onChange={() =>
            onChange(chosen?.includes(value) ? chosen.filter((one) => one !== value) : [...(chosen ?? []), value])
          }
        >
          {label}
        </Tick>
      ))}
      {options.length > 0 && <p className="px-1 text-sm text-ink-2">None ticked means any.</p>}
    </fieldset>
  );
}

function Narrowing({ which, pool, sources, onChange }: Props & { which: string }) {
  switch (which) {
    case 'difficulty':
      return (
        <Ticks
          legend="Difficulty"
          options={difficulties.map((one) => ({ value: one, label: one }))}
          chosen={pool.difficulties}
          onChange={(chosen) => onChange({ ...pool, difficulties: chosen })}
        />
      );
    case 'type':
      return (
        <Ticks
          legend="Type"
          options={questionTypes.map((one) => ({ value: one, label: questionTypeNames[one] }))}
          chosen={pool.types}
          onChange={(types) => onChange({ ...pool, types })}
        />
      );
    case 'objective':
      return (
        <Ticks
          legend="Objective"
          options={sources.objectives.map(({ id, code, wording }) => ({ value: id, label: `${code} ${wording}` }))}
          chosen={pool.objectives}
          onChange={(objectives) => onChange({ ...pool, objectives })}
          empty="The bank has no objectives yet."
        />
      );
    case 'tag':
      return (
        <Ticks
          legend="Tag"
          options={sources.tags.map((tag) => ({ value: tag, label: tag }))}
          chosen={pool.tags}
          onChange={(tags) => onChange({ ...pool, tags })}
          empty="No question has a tag yet."
        />
      );
    case 'success':
      return (
        <SuccessRangeFields
          value={pool.success ?? null}
          onChange={(success) => onChange({ ...pool, success: success ?? undefined })}
        />
      );
    default:
      return (
        <Rest
          days={pool.restDays ?? null}
          onChange={(restDays) => onChange({ ...pool, restDays: restDays ?? undefined })}
        />
      );
  }
}

function Rest({ days, onChange }: { days: number | null; onChange: (days: number | null) => void }) {
  const [text, setText] = useState(days === null ? '' : String(days));
  const fits = /^[1-9][0-9]{0,3}$/.test(text.trim()) && Number(text) <= 3_650;
  return (
    <NumberField
      label="Leave out questions used in the last … days"
      whole
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        const next = event.target.value.trim();
        if (next === '') onChange(null);
        else if (/^[1-9][0-9]{0,3}$/.test(next) && Number(next) <= 3_650) onChange(Number(next));
      }}
      hint="Empty: used or not. A term is about 120 days."
      problem={text.trim() === '' || fits ? null : 'Whole days, from 1 to 3650.'}
    />
  );
}
