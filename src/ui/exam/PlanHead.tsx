'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { oneOrMany } from '@/core/base/words';
import type { PlanCheck } from '@/core/exam/planCheck';
import type { OpenExam } from '@/server/exam/exams';
import { ClashSheet, KeptHere, keptSaid } from '../keep/KeptSaid';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { WayBack } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { LabelPieces } from './LabelPieces';
import { LooksSaid } from './LooksSaid';
import { placeInPlan, valueInPlan } from './placeInPlan';
import type { Plan } from './usePlan';

type Props = {
  base: string;
  exam: OpenExam;
  plan: Plan;
  mayChange: boolean;
  /** Further ways to try the exam. */
  children?: ReactNode;
} & Commands<'createSitting' | 'labelExam', 'courseId' | 'examId'>;

/** What keeps an exam from being given; null where nothing does. Draws that are only short are told by the sitting. */
export function whyNotGiven(
  design: Plan['design'],
  { poolSizes, questions }: Pick<PlanCheck, 'poolSizes' | 'questions'>,
): string | null {
  // Items are stored as they are set, without being part of the design on the page.
  const hasSome = design.offScreen ? questions > 0 : design.parts.some((part) => part.lines.length > 0);
  if (!hasSome) return 'The exam has no questions yet.';
  return Object.values(poolSizes).includes(0) ? 'A draw finds no question at all: the plan check says which.' : null;
}

/** The head of an exam's plan: its title, how it stands stored, its labels, and what can be done with it. */
export function PlanHead({ base, exam, plan, mayChange, createSitting, labelExam, children }: Props) {
  const router = useRouter();
  const { perform, problems: giveProblems, busy } = usePerform();
  const { revision, behind } = plan.stored;
  return (
    <>
      <div className="mb-4 flex flex-wrap items-start gap-x-2 gap-y-2">
        <div className="min-w-72 flex-1">
          <WayBack href={`${base}/exams`} name="Exams" />
          <label className="sr-only" htmlFor="exam-title">
            Title of the exam
          </label>
          <input
            id="exam-title"
            value={plan.title}
            readOnly={!mayChange}
            onChange={(event) => plan.setTitle(event.target.value)}
            className="w-full border-b border-transparent bg-transparent font-serif text-2xl font-semibold hover:border-edge"
          />
          <p className="text-ink-2" role="status">
            {exam.design.offScreen && 'Off-screen: its questions stand on paper · '}
            Revision {revision} · {keptSaid(plan.state)}
            {plan.broughtBack && plan.state.kind !== 'kept' && ' · what you typed here before has been brought back'}
            {exam.frozen &&
              revision === exam.revision &&
              ' · given in a sitting: a change makes the next revision, the sitting keeps this one'}
          </p>
          {mayChange && (
            <p className="text-sm">
              <TextLink href={`${base}/done?within=${exam.id}`}>Done lately</TextLink>
              {' · '}
              <TextLink href={`${base}/rounds?exam=${exam.id}`}>Begin a round with it</TextLink>
            </p>
          )}
          {(revision > 1 || behind > 0) && (
            <p className={behind ? 'text-saffron' : 'text-ink-2'}>
              {behind > 0 &&
                `${behind === 1 ? 'One sitting keeps' : `${behind} sittings keep`} an earlier revision. Should ${oneOrMany(behind, 'it', 'they')} take this one up? `}
              <TextLink href={`${base}/exams/${exam.id}/revisions`}>Revisions and what changed</TextLink>
            </p>
          )}
          <LabelPieces labels={exam.labels} mayChange={mayChange} labelExam={labelExam} />
          {mayChange && (
            <LooksSaid
              href={`${base}/exams/${exam.id}/look`}
              looks={plan.stored.looks ?? exam.looks}
              remarks={exam.remarks}
              mayAsk
            />
          )}
        </div>
        {mayChange && (
          <>
            {children}
            <Button
              look="main"
              whyNot={whyNotGiven(plan.design, plan.stored.check)}
              disabled={busy || plan.state.kind !== 'kept'}
              onClick={() =>
                void perform(
                  () => createSitting({ examId: exam.id }),
                  ({ sittingId }) => router.push(`${base}/sittings/${sittingId}`),
                )
              }
            >
              Give as a sitting
            </Button>
          </>
        )}
      </div>
      <KeptHere state={plan.state} />
      {plan.state.kind === 'clash' && (
        <ClashSheet
          value={plan.value}
          clashes={plan.state.clashes}
          placeSaid={(path) => placeInPlan(plan.design, path)}
          valueSaid={valueInPlan}
          onSettle={plan.settle}
        />
      )}
      <Problems
        problems={[...plan.problems.filter((problem) => !problem.field?.startsWith('design.parts')), ...giveProblems]}
        className="mb-3"
      />
    </>
  );
}
