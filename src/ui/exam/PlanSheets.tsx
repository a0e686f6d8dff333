'use client';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { randomName, seededRandom } from '@/core/base/random';
import type { Problem } from '@/core/base/result';
import { moveLine, movePart, neighbourPlace } from '@/core/exam/arrangeDesign';
import {
  designCount,
  designPoints,
  type ExamDesign,
  type ExamLine,
  type ExamPart,
  lineCount,
  linesOf,
} from '@/core/exam/design';
import type { PlanCheck } from '@/core/exam/planCheck';
import type { OpenExam } from '@/server/exam/exams';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { sameSaid } from '../kit/sameSaid';
import { HardnessFields } from './HardnessFields';
import { InstructionsSheet } from './InstructionsSheet';
import { LookPieces } from './LookPieces';
import { PartSheet } from './PartSheet';
import { PlanAside } from './PlanAside';
import { PlanDrag } from './PlanDrag';
import type { Choosable } from './PoolPieces';
import { type ExamQuestionLook, QuestionLookSection } from './QuestionLookSection';
import { SpreadTable } from './SpreadTable';
import type { Fixed } from './usePlan';

type Props = {
  base: string;
  exam: OpenExam;
  design: ExamDesign;
  check: PlanCheck;
  fixed: Fixed;
  problems: readonly Problem[];
  /** Raised when the design came from elsewhere. */
  round: number;
  look: ExamQuestionLook | null;
  mayChange: boolean;
  /** Called with a design made from the one given. */
  onChange: (design: ExamDesign) => void;
} & Commands<'choosableQuestions' | 'countPool', 'courseId' | 'examId'>;

let made = 0;
/** An id for a part or line made in this browser. */
const freshId = () => {
  made += 1;
  return randomName(seededRandom(`${Date.now()}/${made}`, globalThis.crypto?.randomUUID?.() ?? ''), 12);
};

/**
 * The parts and lines of a plan as sentences, and beside them the plan check. Drawn anew when the design is another, not
 * with every key typed into the title.
 */
export const PlanSheets = memo(function PlanSheets(props: Props) {
  const { base, exam, design, check, fixed, problems, round, look, mayChange, countPool, onChange } = props;
  const { choosable, needChoosable } = useChoosable(props.choosableQuestions);
  const namesQuestions =
    check.problems.some((problem) => problem.questionIds?.length) ||
    linesOf(design).some(({ line }) => line.kind !== 'fixed' && line.pool.questions?.length);
  useEffect(() => {
    if (namesQuestions && mayChange) needChoosable();
  }, [namesQuestions, mayChange, needChoosable]);
  const sources = useMemo(
    () => ({ ...exam.sources, choosable, needChoosable }),
    [exam.sources, choosable, needChoosable],
  );
  const signs = useMemo(() => signsOf(design), [design]);
  const names = useMemo(() => new Map(choosable.map((one) => [one.id, one.name])), [choosable]);
  const changePart = (part: ExamPart) =>
    onChange({ ...design, parts: design.parts.map((one) => (one.id === part.id ? part : one)) });
  const shiftLine = (lineId: string, by: 1 | -1) => {
    const to = neighbourPlace(design, lineId, by);
    if (to) onChange(moveLine(design, lineId, to));
  };
  const addPart = () =>
    onChange({
      ...design,
      parts: [
        ...design.parts,
        {
          id: freshId(),
          title: `Part ${String.fromCharCode(65 + design.parts.length)}`,
          order: 'as-written',
          lines: [],
        },
      ],
    });

  return (
    <div className="grid items-start gap-4 lg:grid-cols-[1fr_300px]">
      <div className="min-w-0 space-y-4">
        <LookPieces design={design} shuffle={look?.shuffle ?? null} mayChange={mayChange} onChange={onChange} />
        <PlanDrag design={design} onChange={onChange}>
          {design.parts.map((part, p) => (
            <PartSheet
              key={part.id}
              design={design}
              part={part}
              number={p + 1}
              fixed={{ ...fixed, ...Object.fromEntries(choosable.map((one) => [one.id, one])) }}
              sources={sources}
              check={check}
              problems={problems.filter((problem) => problem.field?.startsWith(`design.parts.${p}.`))}
              mayChange={mayChange}
              writing={`${base}/exams/${exam.id}/new-question?part=${part.id}`}
              onChange={changePart}
              onRemove={
                design.parts.length > 1
                  ? () => onChange({ ...design, parts: design.parts.filter((one) => one.id !== part.id) })
                  : null
              }
              onMove={(by) => onChange(movePart(design, part.id, p + by))}
              onMoveLine={shiftLine}
              makeId={freshId}
              countPool={countPool}
            />
          ))}
        </PlanDrag>
        {mayChange && (
          <Button look="quiet" onClick={addPart}>
            Add a part
          </Button>
        )}
        <SpreadTable design={design} check={check} sources={sources} mayChange={mayChange} onChange={onChange} />
        {mayChange && <InstructionsSheet key={round} design={design} onChange={onChange} />}
      </div>
      <PlanAside
        design={design}
        totals={{ questions: designCount(design), points: designPoints(design) }}
        check={check}
        signs={signs}
        names={names}
        fine="Papers can be drawn: no line is short of questions."
        mayChange={mayChange}
        onChange={onChange}
      >
        {mayChange && <QuestionLookSection courseBase={base} look={look} />}
        <HardnessFields design={design} check={check} mayChange={mayChange} onChange={onChange} />
      </PlanAside>
    </div>
  );
}, sameSaid);

/** The questions that can be put on the exam, fetched once and only when someone asks for them. */
function useChoosable(choose: Props['choosableQuestions']) {
  const [choosable, setChoosable] = useState<Choosable[]>([]);
  const asked = useRef(false);
  const ask = useRef(choose);
  ask.current = choose;
  const needChoosable = useCallback(() => {
    if (asked.current) return;
    asked.current = true;
    void ask
      .current()
      .then((answer) => {
        if (answer.ok) setChoosable(answer.value);
        else asked.current = false;
      })
      .catch(() => {
        asked.current = false;
      });
  }, []);
  return { choosable, needChoosable };
}

function signsOf(design: ExamDesign): QuestionSign[] {
  let number = 0;
  return design.parts.flatMap((part) =>
    part.lines.flatMap((line: ExamLine) =>
      Array.from({ length: Math.min(lineCount(line) || 0, 500) }, (): QuestionSign => {
        number += 1;
        return { number, partTitle: part.title, answered: line.kind === 'fixed' };
      }),
    ),
  );
}
