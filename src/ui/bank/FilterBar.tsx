'use client';
import { useRouter } from 'next/navigation';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import {
  everyQuestion,
  filterToQuery,
  isNarrowed,
  type QuestionFilter,
  type QuestionSort,
} from '@/core/bank/questionFilter';
import { counted } from '@/core/base/words';
import { questionTypeNames } from '@/core/question/definitions';
import { difficulties, questionTypes } from '@/core/question/types';
import { Button } from '../kit/Button';
import { inputShape, TextField } from '../kit/Field';
import { SentencePiece } from '../kit/SentencePiece';
import { TextButton } from '../kit/TextButton';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { SuccessRangeFields, successSaid } from '../question/SuccessRangeFields';
import type { BankCommands, BankPageProps } from './model';

type Props = Pick<BankPageProps, 'base' | 'filter' | 'objectives' | 'tags' | 'savedFilters' | 'list' | 'flat'> & {
  commands: Pick<BankCommands, 'saveFilter' | 'dropFilter'>;
};

const sortNames: Record<QuestionSort, string> = {
  written: 'as written',
  changed: 'by last change',
  name: 'by name',
  type: 'by type',
  difficulty: 'by difficulty',
  points: 'by points',
  used: 'by last use',
  success: 'by success rate',
};

/** Search, and the filter as a sentence whose pieces can be changed. The address carries all of it. */
export function FilterBar({ base, filter, objectives, tags, savedFilters, list, flat, commands }: Props) {
  const router = useRouter();
  const { perform, problems } = usePerform();
  const [text, setText] = useState(filter.text);
  const [name, setName] = useState<string | null>(null);
  const box = useRef<HTMLInputElement>(null);
  const go = (next: QuestionFilter, flatly = true) => {
    const query = new URLSearchParams(filterToQuery(next));
    if (flatly && !isNarrowed({ ...next, categories: [] })) query.set('all', 'yes');
    router.replace(`${base}?${query}`, { scroll: false });
  };
  const set = (part: Partial<QuestionFilter>) => go({ ...filter, ...part });
  const latest = useRef(set);
  latest.current = set;

  useEffect(() => {
    if (text === filter.text) return;
    const timer = setTimeout(() => latest.current({ text }), 200);
    return () => clearTimeout(timer);
  }, [text, filter.text]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const inField = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]');
      if (event.key !== '/' || inField) return;
      event.preventDefault();
      box.current?.focus();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);

  const toggle = <T,>(all: readonly T[], one: T): T[] =>
    all.includes(one) ? all.filter((x) => x !== one) : [...all, one];
  const used =
    typeof filter.used === 'object'
      ? `not in ${filter.used.notWithinDays} days`
      : filter.used === 'never'
        ? 'never used'
        : filter.used === 'ever'
          ? 'used before'
          : '';
  const narrowed = isNarrowed(filter);
  return (
    <div className="border-b border-line p-2">
      <input
        ref={box}
        type="search"
        aria-label="Find questions"
        placeholder="Find questions  /"
        value={text}
        onChange={(event) => setText(event.target.value)}
        className={inputShape}
      />
      <div className="mt-1.5 flex flex-wrap items-center gap-x-2 gap-y-0.5 text-sm">
        <Piece
          name="type"
          said={filter.types.map((type) => questionTypeNames[type].toLowerCase()).join(' or ')}
          empty="any type"
        >
          {questionTypes.map((type) => (
            <Tick
              key={type}
              on={filter.types.includes(type)}
              onChange={() => set({ types: toggle(filter.types, type) })}
            >
              {questionTypeNames[type]}
            </Tick>
          ))}
        </Piece>
        <Piece
          name="difficulty"
          said={filter.difficulties.map((one) => (one === 'none' ? 'no difficulty' : one)).join(' or ')}
          empty="any difficulty"
        >
          {([...difficulties, 'none'] as const).map((one) => (
            <Tick
              key={one}
              on={filter.difficulties.includes(one)}
              onChange={() => set({ difficulties: toggle(filter.difficulties, one) })}
            >
              {one === 'none' ? 'not set' : one}
            </Tick>
          ))}
        </Piece>
        <Piece
          name="objective"
          said={filter.objectives.map((id) => objectives.find((one) => one.id === id)?.code ?? '?').join(' or ')}
          empty="any objective"
        >
          {objectives.length === 0 && <p className="px-2">No objectives yet.</p>}
          {objectives.map((one) => (
            <Tick
              key={one.id}
              on={filter.objectives.includes(one.id)}
              onChange={() => set({ objectives: toggle(filter.objectives, one.id) })}
            >
              {one.code} {one.wording}
            </Tick>
          ))}
        </Piece>
        <Piece name="tag" said={filter.tags.join(' or ')} empty="any tag">
          {tags.length === 0 && <p className="px-2">No tags yet.</p>}
          {tags.map((tag) => (
            <Tick key={tag} on={filter.tags.includes(tag)} onChange={() => set({ tags: toggle(filter.tags, tag) })}>
              {tag}
            </Tick>
          ))}
        </Piece>
        <Piece name="use" said={used} empty="used or not">
          {(
            [
              ['any', 'used or not'],
              ['never', 'never used'],
              ['ever', 'used before'],
            ] as const
          ).map(([value, label]) => (
            <Tick key={value} radio on={filter.used === value} onChange={() => set({ used: value })}>
              {label}
            </Tick>
          ))}
          {[30, 180, 365].map((days) => (
            <Tick
              key={days}
              radio
              on={typeof filter.used === 'object' && filter.used.notWithinDays === days}
              onChange={() => set({ used: { notWithinDays: days } })}
            >
              not used in the last {days} days
            </Tick>
          ))}
        </Piece>
        <Piece name="in use or retired" said={filter.retired ? 'retired' : ''} empty="in use">
          <Tick radio on={!filter.retired} onChange={() => set({ retired: false })}>
            in use
          </Tick>
          <Tick radio on={filter.retired} onChange={() => set({ retired: true })}>
            retired
          </Tick>
        </Piece>
        <Piece name="success rate" said={filter.success ? successSaid(filter.success) : ''} empty="any success rate">
          <SuccessRangeFields value={filter.success} onChange={(success) => set({ success })} />
        </Piece>
        <Piece name="order" said={`${sortNames[filter.sort]}${filter.down ? ', last first' : ''}`} empty="">
          {(Object.keys(sortNames) as QuestionSort[]).map((sort) => (
            <Tick key={sort} radio on={filter.sort === sort} onChange={() => set({ sort })}>
              {sortNames[sort]}
            </Tick>
          ))}
          <Tick on={filter.down} onChange={() => set({ down: !filter.down })}>
            last first
          </Tick>
        </Piece>
      </div>
      {(flat || savedFilters.length > 0) && (
        <div className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
          {flat && (
            <span role="status" className="font-medium">
              {counted(list.total, 'question')}
            </span>
          )}
          {flat && (
            <TextButton
              onClick={() => {
                setText('');
                go(everyQuestion, false);
              }}
            >
              Back to the outline
            </TextButton>
          )}
          {narrowed && name === null && <TextButton onClick={() => setName('')}>Keep this filter</TextButton>}
          {savedFilters.map((saved) => (
            <span key={saved.id} className="flex items-center">
              <a
                href={`${base}?${saved.query}`}
                onClick={(event) => {
                  event.preventDefault();
                  router.push(`${base}?${saved.query}`, { scroll: false });
                }}
                className="border border-line bg-paper px-2 hover:bg-prussian-wash"
              >
                {saved.name}
              </a>
              <button
                type="button"
                aria-label={`Drop the filter ${saved.name}`}
                title="Drop this filter"
                className="px-1 text-ink-2 hover:text-brick"
                onClick={() => void perform(() => commands.dropFilter(saved.id))}
              >
                ×
              </button>
            </span>
          ))}
        </div>
      )}
      {name !== null && (
        <form
          className="mt-1 flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            const query = new URLSearchParams(filterToQuery(filter)).toString();
            void perform(
              () => commands.saveFilter({ name, query }),
              () => setName(null),
            );
          }}
        >
          <TextField
            label="Name of the filter"
            className="flex-1"
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
            problem={problems[0]?.message}
          />
          <Button type="submit" look="main">
            Keep
          </Button>
          <Button onClick={() => setName(null)}>Cancel</Button>
        </form>
      )}
    </div>
  );
}

/** One piece of the filter: it says what holds, and opens what can hold. */
const Piece = ({ name, said, empty, children }: { name: string; said: string; empty: string; children: ReactNode }) => (
  <SentencePiece
    says={<span className="inline-block max-w-56 truncate align-bottom">{said || empty}</span>}
    label={`Filter by ${name}: ${said || empty}`}
    quiet={!said || !empty}
  >
    {() => <div className="w-68 text-sm">{children}</div>}
  </SentencePiece>
);
