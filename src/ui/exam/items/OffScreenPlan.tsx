'use client';
import { type Item, mostItems } from '@/core/exam/items/item';
import type { OpenExam } from '@/server/exam/exams';
import { ButtonLink } from '../../kit/Button';
import type { Commands } from '../../kit/commands';
import { Empty, Sheet } from '../../kit/Page';
import { InstructionsSheet } from '../InstructionsSheet';
import { LookPieces } from '../LookPieces';
import { PlanAside } from '../PlanAside';
import { PlanHead } from '../PlanHead';
import { usePlan } from '../usePlan';
import { DocumentSection } from './DocumentSection';
import { ItemRows } from './ItemRows';
import { ItemTools } from './ItemTools';
import type { KeySheetAccess } from './KeyFromSheet';
import { useItems } from './useItems';

type Props = {
  base: string;
  exam: OpenExam;
  items: Item[];
  /** For a key that is filled in on paper; null for whoever does not compose the exam. */
  keySheets: KeySheetAccess | null;
  mayChange: boolean;
} & Commands<'saveExam' | 'openExam' | 'changeExamItems' | 'createSitting' | 'labelExam', 'courseId' | 'examId'>;

/** The plan of an off-screen exam: its items with their key, set in bulk, and the paper they belong to. */
export function OffScreenPlan({
  base,
  exam,
  items: begun,
  keySheets,
  mayChange,
  saveExam,
  openExam,
  changeExamItems,
  createSitting,
  labelExam,
}: Props) {
  const plan = usePlan(exam, { saveExam, openExam });
  const { items, problem, type, doToMany } = useItems(plan, begun, changeExamItems);
  const { design, setDesign } = plan;
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
        <ButtonLink href={`/trial${base.slice(2)}/${exam.id}`}>Try it</ButtonLink>
        <ButtonLink href={`${base}/exams/${exam.id}/sample`}>Answer sheet</ButtonLink>
      </PlanHead>
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_300px]">
        <div className="min-w-0 space-y-4">
          <LookPieces design={design} shuffle={null} mayChange={mayChange} onChange={setDesign} />
          {mayChange && <ItemTools items={items} doToMany={doToMany} keySheets={keySheets} />}
          {!mayChange ? (
            <Sheet label="Items" className="px-4 py-3">
              {plan.stored.check.questions} items. Who composes the exam sees them with their key.
            </Sheet>
          ) : items.length === 0 ? (
            <Empty title="No items yet">
              The questions stand on paper; here stands how each of them is answered, what is right, and what it is
              worth. Say above how many there are, up to {mostItems}.
            </Empty>
          ) : (
            <Sheet label="Items and key">
              {problem && (
                <p role="alert" className="border-b border-line px-3 py-2 text-brick">
                  {problem.message}
                </p>
              )}
              <ItemRows items={items} wrongAt={problem?.at ?? null} mayChange={mayChange} type={type} />
              {mayChange && (
                <p className="border-t border-line px-3 py-2 text-sm text-ink-2">
                  On a row: its letter marks the right answer and goes on to the next · ↑↓ walk · what you type saves
                  itself
                </p>
              )}
            </Sheet>
          )}
          <DocumentSection base={base} examId={exam.id} plan={plan} mayChange={mayChange} />
          {mayChange && <InstructionsSheet key={plan.round} design={design} onChange={setDesign} />}
        </div>
        <PlanAside
          design={design}
          totals={
            mayChange
              ? { questions: items.length, points: items.reduce((sum, item) => sum + item.points, 0) }
              : plan.stored.check
          }
          check={plan.stored.check}
          signs={null}
          fine="Every item has its key or is marked by hand: the exam can be given."
          mayChange={mayChange}
          onChange={setDesign}
        />
      </div>
    </div>
  );
}
