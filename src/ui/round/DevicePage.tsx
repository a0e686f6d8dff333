'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { QuestionResponse } from '@/core/question/student';
import type { DeviceRound } from '@/server/round/device';
import type { KeeperState } from '../attempt/answerKeeper';
import { ask } from '../attempt/requests';
import { SaveState } from '../attempt/SaveState';
import { browserStore } from '../kit/browserStore';
import { RichText } from '../kit/RichText';
import { TextLink } from '../kit/TextLink';
import { useStream } from '../kit/useStream';
import { takingOf } from '../question/players';
import { QuestionPlayer } from '../question/QuestionPlayer';
import { QuestionShown } from '../question/QuestionShown';
import { answerKey, ledKeeper } from './ledAnswers';
import { OwnOutcomeSaid } from './OwnOutcomeSaid';
import { TimeLine } from './TimeLine';

type Props = { sittingId: string; begun: DeviceRound };

/** A round on one's own device: the question that is before everybody, and whatever is learnt of it. */
export function DevicePage({ sittingId, begun }: Props) {
  const [round, setRound] = useState(begun);
  const [isOut, setIsOut] = useState(false);
  const line = useStream<DeviceRound | null>(isOut ? null : `/api/rounds/${sittingId}/live`, (seen) => {
    if (seen) setRound(seen);
    else setIsOut(true);
  });
  useEffect(() => {
    document.title = `${round.title} · Wuzzen`;
  }, [round.title]);
  if (isOut)
    return (
      <Quiet title="You are no longer in this round.">
        Your instructor has taken this device out. <TextLink href="/in">Come in again</TextLink> under another name, or
        ask them.
      </Quiet>
    );
  return (
    <>
      <header className="mb-4 flex flex-wrap items-baseline justify-between gap-x-4 text-base text-ink-2">
        <h1 className="font-sans text-base font-medium text-ink">{round.title}</h1>
        <WhoIsHere round={round} />
      </header>
      {line.kind === 'broken' && (
        <p role="alert" className="mb-3 border-l-2 border-saffron pl-3 text-saffron">
          No connection just now. What you answer is kept here and is sent when it is back.
        </p>
      )}
      {round.walked ? (
        <Walked walked={round.walked} />
      ) : round.stopped ? (
        <Stopped round={round} />
      ) : round.pace === 'own' ? (
        <OwnPace round={round} />
      ) : (
        <LedQuestionPage round={round} />
      )}
    </>
  );
}

/** Who is here, and with which digits they go on elsewhere. */
function WhoIsHere({ round }: { round: DeviceRound }) {
  return (
    <span>
      {round.madeUp && <span className="text-saffron">made up: </span>}
      {round.name}
      {round.wayBack !== null && (
        <span title="With your name and these digits you go on at another device.">
          {' '}
          · way back <span className="font-mono">{round.wayBack}</span>
        </span>
      )}
    </span>
  );
}

/** What is before everybody in a led round. */
function LedQuestionPage({ round }: { round: DeviceRound }) {
  const { attemptId, question } = round;
  const [epoch, setEpoch] = useState<number | null>(null);
  const [superseded, setSuperseded] = useState(false);
  const [keeping, setKeeping] = useState<KeeperState | { kind: 'opening' }>({ kind: 'opening' });
  /** What was answered here, by question and vote. */
  const [given, setGiven] = useState<Record<string, unknown>>({});
  useEffect(() => {
    let isGone = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const open = async () => {
      const answer = await ask<{ epoch?: number }>(`/api/attempts/${attemptId}/open`, null);
      if (isGone) return;
      if (answer?.status === 200 && typeof answer.body.epoch === 'number') setEpoch(answer.body.epoch);
      else if (answer === null || answer.status >= 500 || answer.status === 429) timer = setTimeout(open, 1_500);
    };
    void open();
    return () => {
      isGone = true;
      clearTimeout(timer);
    };
  }, [attemptId]);
  const ahead = useRef(0);
  ahead.current = round.now - Date.now();
  const keeper = useMemo(
    () =>
      epoch === null
        ? null
        : ledKeeper({
            attemptId,
            epoch,
            store: browserStore(),
            onState: setKeeping,
            onAside: () => {},
            clock: () => Date.now() + ahead.current,
          }),
    [attemptId, epoch],
  );
  useEffect(() => {
    if (!keeper) return;
    const kept = keeper.recover();
    if (kept.length)
      setGiven((before) => ({ ...Object.fromEntries(kept.map((one) => [one.slotId, one.value])), ...before }));
    else setKeeping({ kind: 'saved', at: null });
    const hurry = () => keeper.hurry();
    window.addEventListener('online', hurry);
    document.addEventListener('visibilitychange', hurry);
    return () => {
      keeper.stop();
      window.removeEventListener('online', hurry);
      document.removeEventListener('visibilitychange', hurry);
    };
  }, [keeper]);
  useEffect(() => {
    if (keeping.kind === 'aside' && keeping.said.includes('another window')) setSuperseded(true);
  }, [keeping]);
  if (!question)
    return (
      <Quiet title="You are in.">
        The first question appears here by itself when it is opened. You can leave this page open.
      </Quiet>
    );
  const key = answerKey(question.slotId, question.vote);
  const stored = question.vote === 1 ? round.answers.first : round.answers.second;
  const value = key in given ? given[key] : stored;
  const isOpen = question.phase === 'open';
  const first = question.vote > 1 ? round.answers.first : null;
  return (
    <article className="border border-line bg-sheet px-4 py-4 sm:px-6 sm:py-5">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4 text-base text-ink-2">
        <h2 className="font-sans text-base font-medium">
          Question {question.at + 1} of {round.count}
          {question.vote > 1 && <span className="text-saffron"> · asked again</span>}
        </h2>
        <span role="status">{phaseSaid[question.phase]}</span>
      </div>
      {isOpen && (
        <div className="mb-3">
          <TimeLine openedAt={question.openedAt} endsAt={question.endsAt} now={round.now} />
        </div>
      )}
      {question.passage && <RichText rich={question.passage} className="mb-4 border-l-2 border-line pl-3" />}
      {isOpen ? (
        <QuestionPlayer
          key={key}
          view={question.view}
          name={key}
          disabled={keeper === null || superseded}
          response={(value ?? undefined) as QuestionResponse | undefined}
          onRespond={(next) => {
            setGiven((before) => ({ ...before, [key]: next ?? null }));
            keeper?.keep(question.slotId, question.vote, next ?? null, !takingOf(question.view.type).sentAtOnce);
          }}
        />
      ) : (
        <QuestionShown view={question.view} response={(value ?? undefined) as QuestionResponse | undefined} />
      )}
      {isOpen && first !== null && (
        <p className="mt-3 text-base text-ink-2">
          You answered this once. What you enter now counts beside it; enter nothing, and your first answer stands.
        </p>
      )}
      {round.own && <OwnOutcomeSaid own={round.own} />}
      {question.phase === 'shown' && !round.own && round.learning !== 'each' && (
        <p className="mt-3 text-base text-ink-2">
          {round.learning === 'never' ? 'What is right is on the wall.' : 'You see how you did when the round is over.'}
        </p>
      )}
      <p className="mt-4">
        {superseded ? (
          <span role="alert" className="text-brick">
            This round has been opened at another device or in another window: go on there.
          </span>
        ) : (
          <SaveState
            state={{ keeping, superseded, standing: null, timeZone: 'UTC' }}
            begun={value !== null && value !== undefined}
          />
        )}
      </p>
    </article>
  );
}

const phaseSaid = {
  ahead: '',
  open: 'open',
  closed: 'closed: look at the wall',
  shown: 'closed',
};

/** At one's own pace, after the hand-in. */
function OwnPace({ round }: { round: DeviceRound }) {
  return round.handedIn ? (
    <Quiet title="Handed in.">
      Your answers are stored. When the round is stopped and talked through, this page follows.
    </Quiet>
  ) : (
    <Quiet title="You are in.">
      <TextLink href={`/take/${round.attemptId}`}>Go on with your answers</TextLink>
    </Quiet>
  );
}

function Stopped({ round }: { round: DeviceRound }) {
  const { summary } = round;
  return (
    <section className="border border-line bg-sheet px-4 py-5 sm:px-6">
      <h2 className="text-2xl">The round has been stopped.</h2>
      <p className="mt-2 text-lg">Your answers are handed in. There is nothing more to do.</p>
      {summary?.score && (
        <p className="mt-3 text-lg">
          Your score: <strong className="tabular-nums">{summary.score}</strong>
        </p>
      )}
      {summary?.held && (
        <p className="mt-3 text-lg">
          What is right is not told here yet, because others may still be answering the same questions.
        </p>
      )}
      {summary && summary.questions.length > 0 && (
        <ol className="mt-4 divide-y divide-line border-y border-line">
          {summary.questions.map((one) => (
            <li key={one.number} className="py-2 text-base">
              <span className="flex flex-wrap items-baseline justify-between gap-x-4">
                <span className="min-w-0">
                  {one.number}. {one.name}
                </span>
                <span className={`font-medium whitespace-nowrap ${summaryInk[one.state]}`}>
                  {summarySaid[one.state]}
                </span>
              </span>
              {(one.given || one.right) && (
                <span className="block text-ink-2">
                  {one.given ? `You: ${one.given}` : 'You gave no answer'}
                  {one.right && one.state !== 'right' && ` · right is: ${one.right}`}
                </span>
              )}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

const summarySaid = { right: 'right', partly: 'partly right', wrong: 'not right', waits: 'not marked yet', told: '' };
const summaryInk = { right: 'text-pine', partly: 'text-saffron', wrong: 'text-brick', waits: 'text-plum', told: '' };

/** A question that is talked through, with one's own answer. */
function Walked({ walked }: { walked: NonNullable<DeviceRound['walked']> }) {
  return (
    <article className="border border-line bg-sheet px-4 py-4 sm:px-6 sm:py-5">
      <h2 className="mb-2 font-sans text-base font-medium text-ink-2">Question {walked.number}: looked at together</h2>
      <QuestionShown view={walked.view} response={(walked.value ?? undefined) as QuestionResponse | undefined} />
      {walked.own && <OwnOutcomeSaid own={walked.own} />}
    </article>
  );
}

/** A page with nothing on it but what it says. */
function Quiet({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="border border-line bg-sheet px-4 py-8 text-center sm:px-6" role="status">
      <h2 className="text-2xl">{title}</h2>
      <div className="mx-auto mt-2 max-w-prose text-lg text-ink-2">{children}</div>
    </section>
  );
}
