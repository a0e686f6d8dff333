'use client';
import { memo, type ReactNode, useDeferredValue, useState } from 'react';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { pointsText } from '@/core/base/rounding';
import type { ExamDesign } from '@/core/exam/design';
import type { PlanCheck } from '@/core/exam/planCheck';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Sheet } from '../kit/Page';
import { PaperRuler } from '../kit/PaperRuler';

/** A paper may have hundreds of questions: it is drawn anew only when they are others. */
const Ruler = memo(PaperRuler);

type Props = {
  design: ExamDesign;
  totals: { questions: number; points: number };
  check: PlanCheck;
  /** The paper drawn as a ruler, where it is short enough to be drawn. */
  signs: QuestionSign[] | null;
  /** What stands there when nothing is wrong. */
  fine: string;
  mayChange: boolean;
  /** What questions are called, by id. */
  names?: ReadonlyMap<string, string>;
  onChange: (design: ExamDesign) => void;
  children?: ReactNode;
};

/** The plan check, always beside the plan: the totals, every problem with the way to it, and what the exam is worth. */
export function PlanAside({ design, totals, check, signs, fine, names, mayChange, onChange, children }: Props) {
  // Hundreds of strokes are drawn when there is time: whoever types a part's name does not wait for them.
  const drawn = useDeferredValue(signs);
  // A plan that was only just begun is not wrong yet.
  const begun = design.parts.some((part) => part.lines.length > 0);
  return (
    <aside aria-label="Plan check" className="space-y-4 lg:sticky lg:top-3">
      <Sheet className="px-4 py-3">
        <h2 className="text-lg">Plan check</h2>
        <dl className="mt-2 grid grid-cols-[1fr_auto] gap-y-1">
          <dt className="text-ink-2">{design.offScreen ? 'Items' : 'Questions on every paper'}</dt>
          <dd className="text-right tabular-nums">{totals.questions}</dd>
          <dt className="text-ink-2">Points</dt>
          <dd className="text-right tabular-nums">{pointsText(totals.points)}</dd>
          <dt className="text-ink-2">
            Expected minutes
            {check.spread.timed > 0 && (
              <span className="block text-sm">
                {Math.round(100 * check.spread.timed)} % of questions by observed times
              </span>
            )}
          </dt>
          <dd className="text-right tabular-nums">{Math.round(check.spread.minutes)}</dd>
        </dl>
        {drawn && (
          <div className="mt-3 overflow-x-auto">
            <Ruler signs={drawn} label="The paper" />
          </div>
        )}
        <div className="mt-3 border-t border-line pt-3" aria-live="polite">
          {check.problems.length === 0 ? (
            <p className="text-pine">{fine}</p>
          ) : (
            <ul className={`space-y-2 ${begun ? 'text-brick' : 'text-ink-2'}`}>
              {check.problems.map((problem) => (
                <li key={problem.message}>
                  {problem.lineIds[0] || problem.partId ? (
                    <a
                      className="underline"
                      href={`#${problem.lineIds[0] ? `line-${problem.lineIds[0]}` : `part-${problem.partId}`}`}
                    >
                      {problem.message}
                    </a>
                  ) : (
                    problem.message
                  )}
                  {problem.questionIds && problem.questionIds.length > 0 && (
                    <details className="text-sm text-ink">
                      <summary>Which questions they share</summary>
                      <ul className="max-h-56 list-disc overflow-y-auto pl-5">
                        {problem.questionIds.map((id) => (
                          <li key={id}>{names?.get(id) ?? 'a question'}</li>
                        ))}
                      </ul>
                    </details>
                  )}
                </li>
              ))}
            </ul>
          )}
        </div>
        {children}
        <WorthField
          worth={design.worth}
          total={totals.points}
          readOnly={!mayChange}
          onChange={(worth) => onChange({ ...design, worth })}
        />
      </Sheet>
    </aside>
  );
}

/** What the exam is worth in the gradebook: its points unless a number is given. */
function WorthField({
  worth,
  total,
  readOnly,
  onChange,
}: {
  worth: number | null;
  total: number;
  readOnly: boolean;
  onChange: (worth: number | null) => void;
}) {
  const [text, setText] = useState(worth === null ? '' : pointsText(worth));
  return (
    <NumberField
      label="Worth in the gradebook"
      className="mt-3"
      readOnly={readOnly}
      placeholder={`${pointsText(total)}, its points`}
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        const value = numberIn(event.target.value);
        if (event.target.value.trim() === '') onChange(null);
        else if (Number.isFinite(value) && value > 0) onChange(value);
      }}
      problem={text.trim() !== '' && !(numberIn(text) > 0) ? 'A number above 0, or empty.' : null}
    />
  );
}
