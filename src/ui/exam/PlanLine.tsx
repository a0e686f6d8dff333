'use client';
import { memo } from 'react';
import type { Problem } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { ExamLine } from '@/core/exam/design';
import type { QuestionType } from '@/core/question/types';
import { MoveButtons } from '../kit/MoveButtons';
import { sameSaid } from '../kit/sameSaid';
import { LineOptions, optionsSaid } from './LineOptions';
import { DrawSentence, FixedSentence } from './LineSentence';
import { useLineDrag } from './PlanDrag';
import type { Sources } from './PoolPieces';

type Props = {
  line: ExamLine;
  /** "2.3": the third line of the second part. */
  number: string;
  question: { name: string; type: QuestionType } | null;
  sources: Sources;
  poolSize: number | undefined;
  /** Whether the plan check names it. */
  marked: boolean;
  problems: readonly Problem[];
  mayChange: boolean;
  noRequired: string | null;
  /** Whether pages end where the author ends them, and whether one can begin at this line. */
  breaks: boolean;
  mayBreak: boolean;
  /** These stay good when the part has changed since they were given: a line is not drawn anew for them. */
  onChange: (line: ExamLine) => void;
  onRemove: () => void;
  /** Null at the ends of the plan. */
  onUp: (() => void) | null;
  onDown: (() => void) | null;
};

/**
 * What a line says. A plan may have hundreds, each with several pieces that open: it is drawn anew only when it says
 * something else, not with every key that is typed elsewhere.
 */
const LineBody = memo(function LineBody(props: Props) {
  const { line, number, sources, mayChange, marked, onChange } = props;
  const options = optionsSaid(line);
  return (
    <>
      <span className="min-w-0">
        {line.kind !== 'fixed' ? (
          <DrawSentence line={line} sources={sources} mayChange={mayChange} onChange={onChange} />
        ) : (
          <FixedSentence line={line} question={props.question} mayChange={mayChange} onChange={onChange} />
        )}
        {mayChange ? (
          <>
            {options ? ', ' : ' · '}
            <LineOptions
              line={line}
              number={number}
              noRequired={props.noRequired}
              breaks={props.breaks}
              onChange={onChange}
            />
          </>
        ) : (
          options && `, ${options}`
        )}
        {props.problems.map((problem) => (
          <span key={problem.message} className="block text-sm text-brick">
            {problem.message}
          </span>
        ))}
      </span>
      <span className={`text-right text-sm tabular-nums ${marked ? 'text-brick' : 'text-ink-2'}`}>
        {line.kind !== 'fixed' && props.poolSize !== undefined
          ? `of ${line.kind === 'passage' ? counted(props.poolSize, 'passage') : props.poolSize} in the pool`
          : ''}
      </span>
      {mayChange && (
        <span className="flex">
          <MoveButtons name={`line ${number}`} onUp={props.onUp} onDown={props.onDown} onRemove={props.onRemove} />
        </span>
      )}
    </>
  );
}, sameSaid);

/** One line of the plan: its sentence, what its pool holds, its place. */
export const PlanLine = memo(function PlanLine(props: Props) {
  const { line, number, mayChange, marked } = props;
  const drag = useLineDrag(line.id, `line ${number}`);
  const breaksHere = props.breaks && props.mayBreak && line.newPage;
  return (
    <li
      ref={drag.ref}
      style={drag.style}
      id={`line-${line.id}`}
      className={`scroll-mt-4 [contain-intrinsic-size:auto_2.5rem] [content-visibility:auto] border-b border-l-[3px] border-b-line bg-sheet target:bg-saffron-wash ${marked ? 'border-l-brick' : 'border-l-transparent'} ${drag.isDragging ? 'relative z-10 shadow-md' : ''} ${drag.isOver ? 'border-t-2 border-t-prussian' : ''}`}
    >
      {breaksHere && (
        <span className="block border-b border-dashed border-edge px-2 text-center text-sm text-ink-2">new page</span>
      )}
      <div className="grid grid-cols-[auto_1fr_auto_auto] items-center gap-x-2 py-1 pr-2 pl-1">
        <span className="flex items-center">
          {mayChange ? drag.handle : <span className="w-2" />}
          <span className="min-w-8 text-sm text-ink-2 tabular-nums">{number}</span>
        </span>
        <LineBody {...props} />
      </div>
    </li>
  );
}, sameSaid);
