'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { AfterQuestion, AfterRound } from '@/server/round/after';
import type { HeldBack } from '@/server/round/grid';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Empty, PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RichText } from '../kit/RichText';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { takingOf } from '../question/players';
import { QuestionShown } from '../question/QuestionShown';
import { Bars, MovementSaid } from './Bars';
import { GiveKey } from './GiveKey';
import { HeldBackSaid } from './HeldBackSaid';

type Props = {
  courseId: string;
  roundId: string;
  wall: string;
  after: AfterRound;
  /** Null for whoever only reads. */
  held: HeldBack | null;
  mayChange: boolean;
  commands: Commands<'walkThrough' | 'giveKey' | 'acknowledge', 'courseId' | 'roundId' | 'sittingId'>;
};

/** A round afterwards: question by question, with the wall and the devices following. */
export function AfterPage({ courseId, roundId, wall, after, held, mayChange, commands }: Props) {
  const here = `/c/${courseId}/rounds/${roundId}`;
  const { perform, problems, busy } = usePerform();
  const [at, setAt] = useState(after.walkedTo);
  const walk = (to: number | null) => {
    setAt(to);
    void perform(() => commands.walkThrough(to), undefined, { readsAnew: false });
  };
  const last = after.questions.length - 1;
  const walks = after.stoppedAt !== null && mayChange;
  return (
    <PageFrame>
      <PageTitle
        title={after.title}
        back={{ href: `/c/${courseId}/rounds`, name: 'Rounds' }}
        note={
          <>
            {counted(after.people, 'person', 'people')} took part
            {after.stoppedAt === null && ' so far: it is still open'}
            {after.madeUp > 0 &&
              (after.withMadeUp ? (
                <State ink="waits"> · with the answers of {counted(after.madeUp, 'made-up handset')}</State>
              ) : (
                <>
                  {' · '}
                  {counted(after.madeUp, 'made-up handset')} left out{' '}
                  <TextLink href={`${here}/after?made-up=yes`}>Show with them</TextLink>
                </>
              ))}
          </>
        }
      >
        {mayChange && <ButtonLink href={`${here}/groups`}>Who needs another lesson</ButtonLink>}
        {mayChange && after.unmatched > 0 && after.stoppedAt !== null && (
          <ButtonLink href={`${here}/names`}>Match names ({after.unmatched})</ButtonLink>
        )}
        <ButtonLink href={`/c/${courseId}/sittings/${roundId}/results`}>Results and reports</ButtonLink>
        {walks && at === null && last >= 0 && (
          <Button look="main" busy={busy} onClick={() => walk(0)}>
            Talk it through
          </Button>
        )}
      </PageTitle>
      <Problems problems={problems} className="mb-3" />
      {held && at === null && <HeldBackSaid held={held} commands={commands} />}
      {at !== null && after.questions[at] ? (
        <Walk
          at={at}
          last={last}
          busy={busy}
          wall={wall}
          onWalk={walk}
          question={after.questions[at]}
          giveKey={mayChange && after.onTheSpot ? commands.giveKey : null}
        />
      ) : after.questions.length === 0 ? (
        <Empty title="Nobody has come in">There is nothing to be seen of this round.</Empty>
      ) : (
        <ol className="space-y-5">
          {after.questions.map((question, i) => (
            <li key={question.questionId}>
              <Sheet label={`Question ${i + 1}`} className="px-5 py-4">
                <OneQuestion
                  number={i + 1}
                  question={question}
                  giveKey={mayChange && after.onTheSpot ? commands.giveKey : null}
                />
              </Sheet>
            </li>
          ))}
        </ol>
      )}
    </PageFrame>
  );
}

type One = { number: number; question: AfterQuestion; giveKey: Props['commands']['giveKey'] | null };

/** The text of a question beside its bars. */
function OneQuestion({ number, question, giveKey }: One) {
  const { view, bars } = question;
  const hasChoices = bars[0]?.bars.some((bar) => bar.rich !== null) ?? false;
  return (
    <div className="grid gap-x-8 gap-y-3 lg:grid-cols-2">
      <div className="min-w-0">
        <h2 className="font-sans text-base text-ink-2">
          Question {number}
          {question.mean !== null && (
            <span className="tabular-nums"> · {Math.round(question.mean)} % right on the mean</span>
          )}
        </h2>
        {question.passage && <RichText rich={question.passage} className="my-2 border-l-2 border-line pl-3" />}
        {hasChoices && !takingOf(view.type).showsStem ? (
          <RichText rich={view.stem} className="font-serif text-lg" />
        ) : (
          <QuestionShown view={view} />
        )}
      </div>
      <div className="min-w-0 space-y-2">
        <Bars votes={bars} />
        {question.movement && <MovementSaid movement={question.movement} />}
        {question.right !== '' && !hasChoices && <p className="text-pine">Right is: {question.right}</p>}
        {giveKey && question.lacksKey && <GiveKey question={number - 1} giveKey={giveKey} />}
      </div>
    </div>
  );
}

type WalkProps = Omit<One, 'number'> & {
  at: number;
  last: number;
  busy: boolean;
  wall: string;
  onWalk: (to: number | null) => void;
};

/** One question at a time; wall and devices follow. */
function Walk({ at, last, busy, wall, onWalk, question, giveKey }: WalkProps) {
  return (
    <Sheet label="Talking it through" className="px-5 py-4">
      <div className="mb-4 flex flex-wrap items-center gap-2 border-b border-line pb-3">
        <Button busy={busy} whyNot={at === 0 ? 'This is the first question.' : null} onClick={() => onWalk(at - 1)}>
          Before
        </Button>
        <Button
          look="main"
          busy={busy}
          whyNot={at === last ? 'This is the last question.' : null}
          onClick={() => onWalk(at + 1)}
        >
          Next
        </Button>
        <Button look="quiet" busy={busy} onClick={() => onWalk(null)}>
          End
        </Button>
        <span className="text-ink-2">
          The <TextLink href={wall}>wall</TextLink> shows this question, and every device its owner’s own answer.
        </span>
      </div>
      <OneQuestion number={at + 1} question={question} giveKey={giveKey} />
    </Sheet>
  );
}
