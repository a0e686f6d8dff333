'use client';
import { useEffect, useRef, useState } from 'react';
import type { ExamDesign } from '@/core/exam/design';
import { putBack, type TakenOut, takenOut, takenOutSaid } from '@/core/exam/takenOut';
import type { OpenExam } from '@/server/exam/exams';
import { ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { PlanHead } from './PlanHead';
import { PlanSheets } from './PlanSheets';
import type { ExamQuestionLook } from './QuestionLookSection';
import { usePlan } from './usePlan';

type Props = {
  base: string;
  exam: OpenExam;
  mayChange: boolean;
} & Commands<
  'saveExam' | 'openExam' | 'choosableQuestions' | 'countPool' | 'createSitting' | 'labelExam' | 'lookThroughQuestions',
  'courseId' | 'examId'
>;

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
      <PlanSheets
        base={base}
        exam={exam}
        design={design}
        check={plan.stored.check}
        fixed={plan.stored.fixed}
        problems={problems}
        round={plan.round}
        look={look}
        mayChange={mayChange}
        choosableQuestions={choosableQuestions}
        countPool={countPool}
        onChange={setDesign}
      />
    </div>
  );
}
