'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { randomName, seededRandom } from '@/core/base/random';
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
import { putBack, type TakenOut, takenOut, takenOutSaid } from '@/core/exam/takenOut';
import type { OpenExam } from '@/server/exam/exams';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { HardnessFields } from './HardnessFields';
import { InstructionsSheet } from './InstructionsSheet';
import { LookPieces } from './LookPieces';
import { PartSheet } from './PartSheet';
import { PlanAside } from './PlanAside';
import { PlanDrag } from './PlanDrag';
import { PlanHead } from './PlanHead';
import type { Choosable } from './PoolPieces';
import { type ExamQuestionLook, QuestionLookSection } from './QuestionLookSection';
import { SpreadTable } from './SpreadTable';
import { usePlan } from './usePlan';

type Props = {
  base: string;
  exam: OpenExam;
  mayChange: boolean;
} & Commands<
  'saveExam' | 'openExam' | 'choosableQuestions' | 'countPool' | 'createSitting' | 'labelExam' | 'lookThroughQuestions',
  'courseId' | 'examId'
>;

let made = 0;
/** An id for a part or line made in this browser. */
const freshId = () => {
  made += 1;
  return randomName(seededRandom(`${Date.now()}/${made}`, globalThis.crypto?.randomUUID?.() ?? ''), 12);
};

/** The plan of an exam: parts and lines as sentences, and beside them the plan check. Every change saves itself. */
export function ExamPlan({
  base,
  exam,
  choosableQuestions,
  countPool,
  mayChange,
  saveExam,
  openExam,
  createSitting,
  labelExam,
  lookThroughQuestions,
}: Props) {
  const plan = usePlan(exam, { saveExam, openExam });
  const { design, problems, state } = plan;
  const [gone, setGone] = useState<TakenOut | null>(null);
  const setDesign = (next: ExamDesign) => {
    const taken = takenOut(design, next);
    if (taken) setGone(taken);
    plan.setDesign(next);
  };
  const isGone = gone !== null && putBack(design, gone) !== design;
  const { check, fixed } = plan.stored;
  const [look, setLook] = useState<ExamQuestionLook | null>(null);

  // The questions are looked through once the plan stands saved: it reads all their texts, which a save need not wait for.
  const seeAnew = useRef(lookThroughQuestions);
  seeAnew.current = lookThroughQuestions;
  const isSaved = state.kind === 'kept';
  useEffect(() => {
    if (!mayChange || !isSaved) return;
    let gone = false;
    void seeAnew
      .current()
      .then((answer) => !gone && answer.ok && setLook(answer.value))
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [mayChange, isSaved]);

  const { choosable, needChoosable } = useChoosable(choosableQuestions);
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
    setDesign({ ...design, parts: design.parts.map((one) => (one.id === part.id ? part : one)) });
  const shiftLine = (lineId: string, by: 1 | -1) => {
    const to = neighbourPlace(design, lineId, by);
    if (to) setDesign(moveLine(design, lineId, to));
  };
  const addPart = () =>
    setDesign({
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
    <div className="min-w-0">
      <PlanHead
        base={base}
        exam={exam}
        plan={plan}
        mayChange={mayChange}
        createSitting={createSitting}
        labelExam={labelExam}
      >
        <ButtonLink href={`${base}/exams/${exam.id}/rehearsal`}>Rehearse</ButtonLink>
        <ButtonLink href={`/trial${base.slice(2)}/${exam.id}`}>Try it</ButtonLink>
        <ButtonLink href={`${base}/exams/${exam.id}/sample`}>Sample papers</ButtonLink>
      </PlanHead>
      {isGone && (
        <Done
          className="sticky top-2 z-20 mb-3 border border-line"
          onUndo={() => {
            plan.setDesign(putBack(design, gone));
            setGone(null);
          }}
        >
          {takenOutSaid(gone)}.
        </Done>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_300px]">
        <div className="min-w-0 space-y-4">
          <LookPieces design={design} shuffle={look?.shuffle ?? null} mayChange={mayChange} onChange={setDesign} />
          <PlanDrag design={design} onChange={setDesign}>
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
                    ? () => setDesign({ ...design, parts: design.parts.filter((one) => one.id !== part.id) })
                    : null
                }
                onMove={(by) => setDesign(movePart(design, part.id, p + by))}
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
          <SpreadTable design={design} check={check} sources={sources} mayChange={mayChange} onChange={setDesign} />
          {mayChange && <InstructionsSheet key={plan.round} design={design} onChange={setDesign} />}
        </div>
        <PlanAside
          design={design}
          totals={{ questions: designCount(design), points: designPoints(design) }}
          check={check}
          signs={signs}
          names={names}
          fine="Papers can be drawn: no line is short of questions."
          mayChange={mayChange}
          onChange={setDesign}
        >
          {mayChange && <QuestionLookSection courseBase={base} look={look} />}
          <HardnessFields design={design} check={check} mayChange={mayChange} onChange={setDesign} />
        </PlanAside>
      </div>
    </div>
  );
}

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
