'use client';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/base/result';
import { withLine, withLines } from '@/core/exam/arrangeDesign';
import type { ExamDesign, ExamPart } from '@/core/exam/design';
import { questionOrderSaid } from '@/core/exam/orderSaid';
import type { PlanCheck } from '@/core/exam/planCheck';
import { definitionOf } from '@/core/question/definitions';
import type { QuestionType } from '@/core/question/types';
import { Button, ButtonLink } from '../kit/Button';
import { MoveButtons } from '../kit/MoveButtons';
import { Sheet } from '../kit/Page';
import { AddDraws } from './AddDraws';
import { ChoosePieces } from './ChoosePieces';
import { ChooseQuestion } from './ChooseQuestion';
import { LineList, usePartDrag } from './PlanDrag';
import { PlanLine } from './PlanLine';
import type { Sources } from './PoolPieces';
import { type CountPool, TypeDraw } from './TypeDraw';

type Props = {
  design: ExamDesign;
  part: ExamPart;
  number: number;
  fixed: Record<string, { name: string; type: QuestionType }>;
  sources: Sources;
  check: PlanCheck;
  problems: readonly Problem[];
  mayChange: boolean;
  /** Where a new question for this part is written. */
  writing: string;
  onChange: (part: ExamPart) => void;
  onRemove: (() => void) | null;
  onMove: (by: 1 | -1) => void;
  onMoveLine: (lineId: string, by: 1 | -1) => void;
  makeId: () => string;
} & CountPool;

const noBank = 'The bank has no categories yet.';

/** A part of the exam: its heading, its order, what the student answers of it, its lines. */
export function PartSheet(props: Props) {
  const { design, part, number, fixed, sources, check, problems, mayChange, onChange, makeId } = props;
  const [adding, setAdding] = useState<'question' | 'draws' | null>(null);
  /** What a line does reaches the part as it stands then, not as it stood when the line was drawn. */
  const now = useRef(props);
  now.current = props;
  const changeLines = (change: (part: ExamPart) => ExamPart) => now.current.onChange(change(now.current.part));
  const drag = usePartDrag(part.id, part.title);
  const { categories, choosable } = sources;
  const marked = new Set(check.problems.flatMap((problem) => problem.lineIds));
  const isFirst = number === 1;
  const isLast = number === design.parts.length;
  const add = (lines: ExamPart['lines']) => onChange(withLines(part, lines));
  const pool = () => ({ categories: [{ id: categories[0]?.id ?? '', below: true }], difficulties: [] });
  const last = part.lines.findLast((line) => line.kind === 'draw');
  const usual = { count: last?.count ?? 3, points: last?.points ?? 1 };
  const addDraw = () => add([{ kind: 'draw', id: makeId(), ...usual, pool: last?.pool ?? pool() }]);
  const addPassages = () => add([{ kind: 'passage', id: makeId(), count: 1, questions: 2, points: 1, pool: pool() }]);
  const noRequired = part.choose ? 'A choose-part leaves the choice to the student.' : null;
  return (
    <div ref={drag.ref} style={drag.style} className={drag.isDragging ? 'relative z-10 opacity-80' : ''}>
      <Sheet label={part.title}>
        <header id={`part-${part.id}`} className="scroll-mt-4 border-b border-line px-4 py-1.5">
          <div className="flex items-center gap-2">
            {mayChange && <span className="-ml-3">{drag.handle}</span>}
            <input
              aria-label={`Heading of part ${number}`}
              value={part.title}
              readOnly={!mayChange}
              onChange={(event) => onChange({ ...part, title: event.target.value })}
              className="min-w-0 flex-1 bg-transparent font-serif text-lg font-semibold"
            />
            {problems.some((problem) => problem.field?.endsWith('.title')) && (
              <span className="text-sm text-brick">Give the part a name.</span>
            )}
            <label className="flex items-center gap-1.5 text-sm whitespace-nowrap">
              <input
                type="checkbox"
                className="accent-prussian"
                disabled={!mayChange}
                checked={part.order === 'shuffled'}
                onChange={(event) => onChange({ ...part, order: event.target.checked ? 'shuffled' : 'as-written' })}
              />
              {part.order === 'shuffled' ? 'questions shuffled for each paper' : 'shuffle its questions'}
            </label>
            {mayChange && (
              <span className="flex">
                <MoveButtons
                  name={part.title}
                  onUp={isFirst ? null : () => props.onMove(-1)}
                  onDown={isLast ? null : () => props.onMove(1)}
                  onRemove={props.onRemove ?? undefined}
                  removing="Remove the part with its lines"
                />
              </span>
            )}
          </div>
          {part.lines.length > 0 && (
            <div className="pb-1 text-sm">
              <ChoosePieces part={part} mayChange={mayChange} onChange={onChange} />{' '}
              <span className="text-ink-2">{questionOrderSaid(part)}</span>
            </div>
          )}
        </header>
        {part.lines.length === 0 && (
          <p className="px-4 py-4 text-ink-2">
            No lines yet. A line is a draw from categories of the bank, or one fixed question.
          </p>
        )}
        <LineList partId={part.id} lineIds={part.lines.map((line) => line.id)}>
          {part.lines.map((line, i) => (
            <PlanLine
              key={line.id}
              line={line}
              number={`${number}.${i + 1}`}
              question={line.kind === 'fixed' ? (fixed[line.questionId] ?? null) : null}
              sources={sources}
              poolSize={check.poolSizes[line.id]}
              marked={marked.has(line.id)}
              problems={problems.filter((problem) => problem.field?.includes(`.lines.${i}.`))}
              mayChange={mayChange}
              noRequired={noRequired}
              breaks={design.pages === 'breaks'}
              mayBreak={(number > 1 || i > 0) && (part.order === 'as-written' || i === 0)}
              onChange={(next) => changeLines((part) => withLine(part, next))}
              onRemove={() =>
                changeLines((part) => ({ ...part, lines: part.lines.filter((one) => one.id !== line.id) }))
              }
              onUp={isFirst && i === 0 ? null : () => now.current.onMoveLine(line.id, -1)}
              onDown={isLast && i === part.lines.length - 1 ? null : () => now.current.onMoveLine(line.id, 1)}
            />
          ))}
        </LineList>
        {mayChange && (
          <TypeDraw
            sources={sources}
            usual={usual}
            begins={isFirst && isLast && part.lines.length === 0}
            makeId={makeId}
            countPool={props.countPool}
            whyNot={categories.length === 0 ? noBank : null}
            onAdd={(line) => (line ? add([line]) : addDraw())}
          />
        )}
        {mayChange && (
          <footer className="flex flex-wrap gap-1 px-2 py-1.5">
            <Button look="quiet" onClick={addPassages} whyNot={categories.length === 0 ? noBank : null}>
              Add a passage with questions
            </Button>
            <Button
              look="quiet"
              aria-expanded={adding === 'draws'}
              onClick={() => setAdding(adding === 'draws' ? null : 'draws')}
              whyNot={categories.length === 0 ? noBank : null}
            >
              Add a draw for each of …
            </Button>
            <Button
              look="quiet"
              aria-expanded={adding === 'question'}
              onClick={() => setAdding(adding === 'question' ? null : 'question')}
            >
              Add a fixed question
            </Button>
            <ButtonLink look="quiet" href={props.writing}>
              Write a new question
            </ButtonLink>
          </footer>
        )}
        {adding === 'draws' && (
          <AddDraws sources={sources} makeId={makeId} onAdd={add} onClose={() => setAdding(null)} />
        )}
        {adding === 'question' && (
          <ChooseQuestion
            choosable={choosable}
            needChoosable={sources.needChoosable}
            taken={new Set(part.lines.flatMap((line) => (line.kind === 'fixed' ? [line.questionId] : [])))}
            onChoose={(question) =>
              add([
                {
                  kind: 'fixed',
                  id: makeId(),
                  questionId: question.id,
                  points: definitionOf(question.type).usualPoints,
                },
              ])
            }
            onClose={() => setAdding(null)}
          />
        )}
      </Sheet>
    </div>
  );
}
