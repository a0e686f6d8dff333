'use client';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useState } from 'react';
import type { Problem } from '@/core/base/result';
import type { ExamLine, ExamPart } from '@/core/exam/design';
import type { PlanCheck } from '@/core/exam/planCheck';
import { type QuestionType, questionTypeNames, usualPoints } from '@/core/question/types';
import { Button } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { Sheet } from '../kit/Page';
import { AddDraws } from './AddDraws';
import { DrawSentence, FixedSentence } from './LineSentence';
import type { Choosable, Sources } from './PoolPieces';

type Props = {
  part: ExamPart;
  number: number;
  fixed: Record<string, { name: string; type: QuestionType }>;
  sources: Sources;
  check: PlanCheck;
  problems: readonly Problem[];
  mayChange: boolean;
  onChange: (part: Partial<ExamPart>) => void;
  onRemove: (() => void) | null;
  onMove: (by: 1 | -1) => void;
  isFirst: boolean;
  isLast: boolean;
  makeId: () => string;
};

const tool = 'p-1.5 text-ink-2 hover:bg-prussian-wash hover:text-prussian disabled:opacity-30';

/** A part of the exam: its heading, its order, its lines. */
export function PartSheet({
  part,
  number,
  fixed,
  sources,
  check,
  problems,
  mayChange,
  onChange,
  onRemove,
  onMove,
  isFirst,
  isLast,
  makeId,
}: Props) {
  const [adding, setAdding] = useState<'question' | 'draws' | null>(null);
  const { categories, choosable } = sources;
  const set = (lines: ExamLine[]) => onChange({ lines });
  const change = (id: string, next: ExamLine) => set(part.lines.map((line) => (line.id === id ? next : line)));
  const moveLine = (from: number, to: number) => {
    const next = [...part.lines];
    next.splice(to, 0, ...next.splice(from, 1));
    set(next);
  };
  const addDraw = () => {
    const last = part.lines.findLast((line) => line.kind === 'draw');
    const category = categories[0]?.id;
    if (!category) return;
    set([
      ...part.lines,
      {
        kind: 'draw',
        id: makeId(),
        count: last?.count ?? 3,
        points: last?.points ?? 1,
        pool: last?.pool ?? { categories: [{ id: category, below: true }], difficulties: [] },
      },
    ]);
  };
  const addPassages = () => {
    const category = categories[0]?.id;
    if (!category) return;
    set([
      ...part.lines,
      {
        kind: 'passage',
        id: makeId(),
        count: 1,
        questions: 2,
        points: 1,
        pool: { categories: [{ id: category, below: true }], difficulties: [] },
      },
    ]);
  };
  const marked = new Set(check.problems.flatMap((problem) => problem.lineIds));
  return (
    <Sheet label={part.title}>
      <header id={`part-${part.id}`} className="flex items-center gap-3 border-b border-line px-4 py-1.5">
        <input
          aria-label={`Heading of part ${number}`}
          value={part.title}
          readOnly={!mayChange}
          onChange={(event) => onChange({ title: event.target.value })}
          className="min-w-0 flex-1 bg-transparent font-serif text-lg font-semibold"
        />
        {problems.find((problem) => problem.field?.endsWith('.title')) && (
          <span className="text-sm text-brick">Give the part a name.</span>
        )}
        <label className="flex items-center gap-1.5 text-sm whitespace-nowrap">
          <input
            type="checkbox"
            className="accent-prussian"
            disabled={!mayChange}
            checked={part.order === 'shuffled'}
            onChange={(event) => onChange({ order: event.target.checked ? 'shuffled' : 'as-written' })}
          />
          {part.order === 'shuffled' ? 'questions shuffled for each paper' : 'shuffle its questions'}
        </label>
        {mayChange && (
          <span className="flex">
            <button
              type="button"
              className={tool}
              disabled={isFirst}
              onClick={() => onMove(-1)}
              aria-label={`Move ${part.title} up`}
              title="Move the part up"
            >
              <ArrowUp size={15} />
            </button>
            <button
              type="button"
              className={tool}
              disabled={isLast}
              onClick={() => onMove(1)}
              aria-label={`Move ${part.title} down`}
              title="Move the part down"
            >
              <ArrowDown size={15} />
            </button>
            {onRemove && (
              <button
                type="button"
                className={tool}
                onClick={onRemove}
                aria-label={`Remove ${part.title}`}
                title="Remove the part with its lines"
              >
                <X size={15} />
              </button>
            )}
          </span>
        )}
      </header>
      {part.lines.length === 0 && (
        <p className="px-4 py-4 text-ink-2">
          No lines yet. A line is a draw from categories of the bank, or one fixed question.
        </p>
      )}
      <ol>
        {part.lines.map((line, i) => (
          <li
            id={`line-${line.id}`}
            key={line.id}
            className={`grid scroll-mt-4 grid-cols-[2.6rem_1fr_auto_auto] items-center gap-x-2 border-b border-l-[3px] border-b-line py-1 pr-2 pl-2 target:bg-saffron-wash ${marked.has(line.id) ? 'border-l-brick' : 'border-l-transparent'}`}
          >
            <span className="text-sm text-ink-2 tabular-nums">
              {number}.{i + 1}
            </span>
            <span className="min-w-0">
              {line.kind !== 'fixed' ? (
                <DrawSentence
                  line={line}
                  sources={sources}
                  mayChange={mayChange}
                  onChange={(next) => change(line.id, next)}
                />
              ) : (
                <FixedSentence
                  line={line}
                  question={fixed[line.questionId] ?? null}
                  mayChange={mayChange}
                  onChange={(next) => change(line.id, next)}
                />
              )}
              {problems
                .filter((problem) => problem.field?.includes(`.lines.${i}.`))
                .map((problem) => (
                  <span key={problem.message} className="block text-sm text-brick">
                    {problem.message}
                  </span>
                ))}
            </span>
            <span className={`text-right text-sm tabular-nums ${marked.has(line.id) ? 'text-brick' : 'text-ink-2'}`}>
              {line.kind !== 'fixed' && check.poolSizes[line.id] !== undefined
                ? `of ${check.poolSizes[line.id]} ${line.kind === 'passage' ? 'passages ' : ''}in the pool`
                : ''}
            </span>
            {mayChange && (
              <span className="flex">
                <button
                  type="button"
                  className={tool}
                  disabled={i === 0}
                  onClick={() => moveLine(i, i - 1)}
                  aria-label={`Move line ${number}.${i + 1} up`}
                  title="Move up"
                >
                  <ArrowUp size={15} />
                </button>
                <button
                  type="button"
                  className={tool}
                  disabled={i === part.lines.length - 1}
                  onClick={() => moveLine(i, i + 1)}
                  aria-label={`Move line ${number}.${i + 1} down`}
                  title="Move down"
                >
                  <ArrowDown size={15} />
                </button>
                <button
                  type="button"
                  className={tool}
                  onClick={() => set(part.lines.filter((one) => one.id !== line.id))}
                  aria-label={`Remove line ${number}.${i + 1}`}
                  title="Remove"
                >
                  <X size={15} />
                </button>
              </span>
            )}
          </li>
        ))}
      </ol>
      {mayChange && (
        <footer className="flex flex-wrap gap-1 px-2 py-1.5">
          <Button
            look="quiet"
            onClick={addDraw}
            whyNot={categories.length === 0 ? 'The bank has no categories yet.' : null}
          >
            Add a draw
          </Button>
          <Button
            look="quiet"
            onClick={addPassages}
            whyNot={categories.length === 0 ? 'The bank has no categories yet.' : null}
          >
            Add a passage with questions
          </Button>
          <Button
            look="quiet"
            aria-expanded={adding === 'draws'}
            onClick={() => setAdding(adding === 'draws' ? null : 'draws')}
            whyNot={categories.length === 0 ? 'The bank has no categories yet.' : null}
          >
            Add a draw for each of …
          </Button>
          <Button
            look="quiet"
            aria-expanded={adding === 'question'}
            onClick={() => setAdding(adding === 'question' ? null : 'question')}
            whyNot={choosable.length === 0 ? 'The bank has no questions yet.' : null}
          >
            Add a fixed question
          </Button>
        </footer>
      )}
      {adding === 'draws' && (
        <AddDraws
          sources={sources}
          makeId={makeId}
          onAdd={(lines) => set([...part.lines, ...lines])}
          onClose={() => setAdding(null)}
        />
      )}
      {adding === 'question' && (
        <ChooseQuestion
          choosable={choosable}
          taken={new Set(part.lines.flatMap((line) => (line.kind === 'fixed' ? [line.questionId] : [])))}
          onChoose={(question) =>
            set([
              ...part.lines,
              { kind: 'fixed', id: makeId(), questionId: question.id, points: usualPoints[question.type] },
            ])
          }
          onClose={() => setAdding(null)}
        />
      )}
    </Sheet>
  );
}

const mostShown = 40;

/** Finds a question of the bank for a fixed line. */
function ChooseQuestion({
  choosable,
  taken,
  onChoose,
  onClose,
}: {
  choosable: Choosable[];
  taken: Set<string>;
  onChoose: (question: Choosable) => void;
  onClose: () => void;
}) {
  const [find, setFind] = useState('');
  const words = find.trim().toLowerCase().split(/\s+/);
  const found = choosable.filter((one) =>
    words.every((word) => `${one.name} ${one.category}`.toLowerCase().includes(word)),
  );
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: Escape closes the list from anywhere inside it
    <div className="border-t border-line px-4 py-3" onKeyDown={(event) => event.key === 'Escape' && onClose()}>
      <div className="flex gap-2">
        <input
          ref={(field) => field?.focus()}
          type="search"
          aria-label="Find a question"
          placeholder="Find a question by name or category"
          value={find}
          onChange={(event) => setFind(event.target.value)}
          className={inputShape}
        />
        <Button onClick={onClose}>Done</Button>
      </div>
      <p className="mt-1 text-sm text-ink-2">
        {found.length} {found.length === 1 ? 'question' : 'questions'}
        {found.length > mostShown && `, the first ${mostShown} are shown`}
      </p>
      <ul className="mt-1 max-h-64 overflow-y-auto border-t border-line">
        {found.slice(0, mostShown).map((one) => (
          <li key={one.id} className="border-b border-line">
            <button
              type="button"
              disabled={taken.has(one.id)}
              onClick={() => onChoose(one)}
              className="flex w-full gap-3 px-2 py-1.5 text-left -outline-offset-2 hover:bg-prussian-wash disabled:text-ink-2"
            >
              <span className="min-w-0 flex-1 truncate">{one.name}</span>
              <span className="shrink-0 text-sm text-ink-2">
                {taken.has(one.id)
                  ? 'is in this part'
                  : `${one.category} · ${questionTypeNames[one.type].toLowerCase()}`}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
