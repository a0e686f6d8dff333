'use client';
import { useEffect, useMemo, useState } from 'react';
import { counted, listed } from '@/core/base/words';
import { doorCodeShown } from '@/core/round/doorCode';
import { roundSaid } from '@/core/round/roundSaid';
import type { GridPerson, HeldBack, LeadQuestion, RoundHead, RoundNews } from '@/server/round/grid';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { Find } from '../kit/Find';
import { PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RichText } from '../kit/RichText';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { takingOf } from '../question/players';
import { QuestionShown } from '../question/QuestionShown';
import { AskNow } from './AskNow';
import { Bars, MovementSaid } from './Bars';
import { GiveKey } from './GiveKey';
import { HeldBackSaid } from './HeldBackSaid';
import { leadPort } from './leadPort';
import { type Step, stepsOf } from './nextStep';
import { RoundGrid } from './RoundGrid';
import { RoundSentences } from './RoundSentences';
import type { LeadCommands } from './roundCommands';
import { TimeLine } from './TimeLine';
import { useRound } from './useRound';

type Props = {
  /** The address of the round. */
  here: string;
  courseId: string;
  wall: string;
  begun: RoundNews;
  held: HeldBack;
  commands: LeadCommands & Commands<'acknowledge', 'courseId' | 'sittingId'>;
};

const phaseSaid = { ahead: 'not opened', open: 'open', closed: 'closed', shown: 'shown' };

/** A round as it is held: what is next, how the class answers, who is in and for whom one waits. */
export function LeadPage({ here, courseId, wall, begun, held, commands }: Props) {
  const { head, people, line } = useRound(`${here}/live`, begun);
  const { perform, problems, busy } = usePerform();
  const port = useMemo(() => leadPort(here), [here]);
  const [hidden, setHidden] = useState(false);
  const [stops, setStops] = useState(false);
  const [find, setFind] = useState('');
  const [asks, setAsks] = useState(false);
  const isOver = head.stoppedAt !== null;
  const steps = head.rules.pace === 'led' ? stepsOf(head) : [];
  const act = (step: Step) => {
    if (step.kind === 'stop') return setStops(true);
    void perform(() => port.leadRound({ kind: step.kind, question: step.question }), undefined, {
      readsAnew: false,
    });
  };
  useKeys({ h: () => setHidden((before) => !before), n: () => steps[0] && !busy && act(steps[0]) });
  const stop = () =>
    void perform(
      () => port.stopRound(),
      () => setStops(false),
      { readsAnew: false },
    );
  return (
    <PageFrame className="pb-24 lg:pb-0">
      <PageTitle
        title={head.title}
        back={{ href: `/c/${courseId}/rounds`, name: 'Rounds' }}
        note={
          <>
            {isOver ? <State ink="plain">stopped</State> : <State ink="now">open</State>} ·{' '}
            {counted(people.length, 'person is', 'people are')} in
            {people.some((one) => one.madeUp) && `, ${people.filter((one) => one.madeUp).length} of them made up`}
            {!isOver && head.door && (
              <>
                {' '}
                · door code <span className="font-mono text-ink">{doorCodeShown(head.door)}</span>
              </>
            )}
            {line.kind === 'broken' && (
              <span role="alert" className="text-brick">
                {' '}
                · no connection: the round goes on, and so does leading it from another device
              </span>
            )}
          </>
        }
      >
        <ButtonLink href={wall}>Wall</ButtonLink>
        <Button
          aria-pressed={hidden}
          keys="H"
          title="Shows nothing of what is right, nor how anybody goes on elsewhere"
          onClick={() => setHidden(!hidden)}
        >
          {hidden ? 'Fit to be seen: on' : 'Fit to be seen'}
        </Button>
        {isOver ? (
          <ButtonLink look="main" href={`${here}/after`}>
            Talk it through
          </ButtonLink>
        ) : (
          <Button look="grave" onClick={() => setStops(true)}>
            Stop
          </Button>
        )}
      </PageTitle>
      <Problems problems={problems} className="mb-3" />
      {!hidden && <HeldBackSaid held={held} commands={commands} />}
      <div className="grid items-start gap-5 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
        <div className="space-y-5">
          {head.rules.pace === 'led' && !isOver && (
            <Leading
              head={head}
              people={people}
              hidden={hidden}
              steps={steps}
              busy={busy}
              onAct={act}
              commands={commands}
            />
          )}
          {head.onTheSpot && !isOver && head.question?.phase !== 'open' && (
            <Sheet label="Ask another" className="px-5 py-4">
              {asks ? (
                <AskNow
                  busy={busy}
                  act="Ask it now"
                  onAsk={(thing) =>
                    void perform(
                      () => commands.askAnother(thing),
                      () => setAsks(false),
                      { readsAnew: false },
                    )
                  }
                />
              ) : (
                <Button onClick={() => setAsks(true)}>Ask another thing</Button>
              )}
            </Sheet>
          )}
          <HowItIsHeld head={head} here={here} isOver={isOver} commands={commands} />
        </div>
        <Sheet label="People" className="px-4 py-3">
          <div className="mb-2 flex flex-wrap items-center justify-between gap-3">
            <h2 className="text-xl">Who is in</h2>
            {people.length > 8 && <Find label="Find somebody" value={find} onChange={setFind} />}
          </div>
          {people.length === 0 ? (
            <p className="text-ink-2">
              Nobody has come in yet. Show the <TextLink href={wall}>wall</TextLink>, or say the door code.{' '}
              {!isOver && <TextLink href={`${here}/handsets`}>Try it with made-up handsets</TextLink>}
            </p>
          ) : (
            <RoundGrid
              people={people}
              hidden={hidden}
              find={find}
              isOver={isOver}
              at={isOver ? null : (head.question?.at ?? null)}
              commands={commands}
            />
          )}
          {head.notIn.length > 0 && !isOver && (
            <p className="mt-2 text-ink-2">
              {counted(head.notIn.length, 'person of the roster has', 'people of the roster have')} not come in:{' '}
              {listed(head.notIn, 12)}.
            </p>
          )}
        </Sheet>
      </div>
      {stops && (
        <Decision
          title="Stop the round?"
          act="Stop it"
          look="grave"
          busy={busy}
          onAct={stop}
          onClose={() => setStops(false)}
        >
          <p>
            {counted(people.filter((one) => !one.handedIn).length, 'person', 'people')} hand in with this, with what is
            still on its way for three seconds. Devices say so. It cannot be opened again.
          </p>
        </Decision>
      )}
    </PageFrame>
  );
}

/** Keys of a page, where nothing is being typed. */
function useKeys(keys: Record<string, () => void>): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target?.closest('input, textarea, select, [contenteditable], [role=dialog]')) return;
      const act = keys[event.key.toLowerCase()];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
}

type LeadingProps = {
  head: RoundHead;
  people: readonly GridPerson[];
  hidden: boolean;
  steps: Step[];
  busy: boolean;
  onAct: (step: Step) => void;
  commands: LeadCommands;
};

/** What the class is at, and what comes next. On a phone the next step stands under the thumb. */
function Leading({ head, people, hidden, steps, busy, onAct, commands }: LeadingProps) {
  const { question } = head;
  const waits = people.filter((one) => one.answeredNow === false);
  const [next, ...others] = steps;
  return (
    <Sheet label="Leading" className="px-5 py-4">
      <div className="fixed inset-x-0 bottom-0 z-20 flex flex-col gap-2 border-t border-line bg-sheet p-3 lg:static lg:mb-4 lg:flex-row lg:flex-wrap lg:border-0 lg:p-0">
        {next && (
          <Button
            look={next.kind === 'stop' ? 'grave' : 'main'}
            keys="N"
            className="min-h-12 w-full text-lg lg:min-h-9 lg:w-auto lg:text-base"
            busy={busy}
            onClick={() => onAct(next)}
          >
            {next.says}
          </Button>
        )}
        <span className="flex flex-wrap gap-2">
          {others.map((step) => (
            <Button key={step.kind} busy={busy} onClick={() => onAct(step)}>
              {step.says}
            </Button>
          ))}
        </span>
      </div>
      {question ? (
        <AtQuestion question={question} head={head} hidden={hidden} commands={commands} />
      ) : (
        <p className="text-lg">{counted(head.questions.length, 'question')} to open, one after the other.</p>
      )}
      {question?.phase === 'open' && (
        <p role="status" className="mt-3">
          <span className="text-xl tabular-nums">
            {people.length - waits.length} of {people.length}
          </span>{' '}
          answered
          {waits.length > 0 && waits.length <= people.length / 2 && (
            <span className="text-ink-2">
              ; waiting for{' '}
              {listed(
                waits.map((one) => one.name),
                6,
              )}
            </span>
          )}
        </p>
      )}
      <details className="mt-4">
        <summary className="cursor-pointer text-prussian">All {counted(head.questions.length, 'question')}</summary>
        <ol className="mt-1 divide-y divide-line">
          {head.questions.map((one, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: questions of a round stand in their order for good
            <li key={i} className="flex items-baseline justify-between gap-3 py-1">
              <span className="min-w-0">
                {i + 1}. {one.name}
              </span>
              {one.phase === 'ahead' && question?.phase !== 'open' ? (
                <TextButton disabled={busy} onClick={() => onAct({ kind: 'open', question: i, says: '' })}>
                  Open<span className="sr-only"> question {i + 1}</span>
                </TextButton>
              ) : (
                <span className="text-ink-2">{one.phase && phaseSaid[one.phase]}</span>
              )}
            </li>
          ))}
        </ol>
      </details>
    </Sheet>
  );
}

type AtProps = { question: LeadQuestion; head: RoundHead; hidden: boolean; commands: LeadCommands };

function AtQuestion({ question, head, hidden, commands }: AtProps) {
  const { phase, view } = question;
  const bars = hidden ? question.bars.map(withoutOutcome) : question.bars;
  const hasChoices = bars[0]?.bars.some((bar) => bar.rich !== null) ?? false;
  const isSeen = phase === 'closed' || phase === 'shown';
  return (
    <>
      <p className="flex justify-between gap-3 text-ink-2">
        <span>
          Question {question.at + 1} of {head.questions.length}
          {question.vote > 1 && ', asked again'}
        </span>
        <State ink={phase === 'open' ? 'now' : 'plain'}>{phaseSaid[phase]}</State>
      </p>
      {phase === 'open' && <TimeLine openedAt={question.openedAt} endsAt={question.endsAt} now={head.now} />}
      {question.passage && <RichText rich={question.passage} className="my-2 border-l-2 border-line pl-3" />}
      <div className="mt-1">
        {isSeen && hasChoices && !takingOf(view.type).showsStem ? (
          <RichText rich={view.stem} className="font-serif text-lg" />
        ) : (
          <QuestionShown view={view} />
        )}
      </div>
      {isSeen && (
        <div className="mt-3 space-y-2">
          <Bars votes={bars} />
          {question.movement && <MovementSaid movement={question.movement} />}
        </div>
      )}
      {question.right !== '' && !hidden && !(isSeen && hasChoices) && (
        <p className="mt-2 text-pine">Right is: {question.right}</p>
      )}
      {question.lacksKey && isSeen && <GiveKey question={question.at} giveKey={commands.giveKey} />}
    </>
  );
}

const withoutOutcome = (vote: LeadQuestion['bars'][number]): LeadQuestion['bars'][number] => ({
  ...vote,
  bars: vote.bars.map((bar) => ({ ...bar, outcome: null })),
});

type HeldProps = { head: RoundHead; here: string; isOver: boolean; commands: Pick<LeadCommands, 'changeRound'> };

/** How the round is held; what can still be chosen is. */
function HowItIsHeld({ head, here, isOver, commands }: HeldProps) {
  const { perform, problems } = usePerform();
  const [changes, setChanges] = useState(false);
  return (
    <Sheet label="How it is held" className="px-5 py-4">
      {changes ? (
        <RoundSentences
          begun
          rules={head.rules}
          sections={[]}
          sectionId={null}
          onSection={() => {}}
          onChange={({ learning, score, counts, vote }) =>
            void perform(() => commands.changeRound({ learning, score, counts, vote }), undefined, { readsAnew: false })
          }
        />
      ) : (
        <p>{roundSaid(head.rules).join(' ')}</p>
      )}
      <Problems problems={problems} className="mt-2" />
      <p className="mt-2 flex flex-wrap gap-x-4 text-base">
        <TextButton onClick={() => setChanges(!changes)}>{changes ? 'Done' : 'Change this'}</TextButton>
        {!isOver && <TextLink href={`${here}/handsets`}>Made-up handsets</TextLink>}
        {isOver && <TextLink href={`${here}/after`}>Bars, question by question</TextLink>}
      </p>
    </Sheet>
  );
}
