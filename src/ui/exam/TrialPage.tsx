'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { counted, pointsSaid } from '@/core/base/words';
import type { TrialResult } from '@/server/attempt/trial';
import { pagePort } from '../attempt/pagePort';
import { TakingPage } from '../attempt/TakingPage';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { State } from '../kit/Page';
import { pageWidths } from '../kit/pageWidths';
import { TextLink } from '../kit/TextLink';

type Props = Commands<'openTrial' | 'openTrialQuestion' | 'rightAnswers' | 'scoreTrial', 'courseId' | 'examId'> & {
  /** Names the paper that is drawn. */
  seed: string;
  base: string;
  exam: string;
  title: string;
  next: string;
};

const noFiles = 'A trial keeps no files. A student could hand one in here.';

/** An exam tried by its instructor on the page on which students take it, and then what it would have earned. */
export function TrialPage(props: Props) {
  const { base, exam, title, next, seed, openTrial, openTrialQuestion, rightAnswers, scoreTrial } = props;
  const [result, setResult] = useState<TrialResult | null>(null);
  const [port] = useState(() =>
    pagePort(
      'trial',
      {
        open: () => openTrial(seed),
        show: (slotId) => openTrialQuestion(seed, slotId),
        score: (answers) => scoreTrial(seed, answers),
      },
      noFiles,
      setResult,
    ),
  );
  const [state, setState] = useState<'ready' | 'filling' | 'failed' | 'filled'>('ready');
  if (result)
    return (
      <TrialOutcome result={result} base={base} exam={exam} title={title} next={next} byKey={state === 'filled'} />
    );
  return (
    <TakingPage
      port={port}
      title={title}
      onEnded={() => undefined}
      above={(fill) => (
        <aside
          aria-label="Trial"
          className="-mx-4 flex flex-wrap items-center justify-between gap-2 border-b border-line bg-saffron-wash px-4 py-2 text-base"
        >
          <span>
            A trial: nothing is stored. <TextLink href={exam}>Back to the plan</TextLink>
          </span>
          <span className="flex items-center gap-3">
            {state === 'failed' && <span className="text-brick">The answers could not be fetched.</span>}
            {state === 'filled' && <span role="status">Filled in.</span>}
            <Button
              disabled={state === 'filling'}
              onClick={async () => {
                setState('filling');
                const answer = await rightAnswers(seed).catch(() => null);
                if (answer?.ok) fill(answer.value);
                setState(answer?.ok ? 'filled' : 'failed');
              }}
            >
              Fill in right answers
            </Button>
          </span>
        </aside>
      )}
    />
  );
}

/** What the trial would have earned, question by question; keys that do not earn full marks themselves first. */
function TrialOutcome({
  result: { scored, score, slots },
  base,
  exam,
  title,
  next,
  byKey,
}: {
  result: TrialResult;
  base: string;
  exam: string;
  title: string;
  next: string;
  byKey: boolean;
}) {
  const broken = slots.filter((slot) => slot.broken);
  const byHand = slots.filter((slot) => slot.points === null).length;
  return (
    <main className={`mx-auto px-4 py-6 ${pageWidths.sheet}`}>
      <h1 className="text-2xl">Trial: {title}</h1>
      <p className="mt-1 text-lg">
        {scored
          ? `${pointsText(score.earned)} of ${pointsSaid(score.possible)}${byHand ? `; ${counted(byHand, 'answer waits', 'answers wait')} for a mark by hand` : ''}.`
          : 'This exam is not scored.'}{' '}
        <span className="text-ink-2">Nothing of this has been stored.</span>
      </p>
      {broken.length > 0 ? (
        <div role="alert" className="mt-3 border border-brick bg-brick-wash px-4 py-2">
          The key of {broken.length === 1 ? 'one question' : `${broken.length} questions`} does not earn full marks
          itself: {broken.map((slot) => slot.name).join(', ')}.
        </div>
      ) : (
        byKey && scored && <p className="mt-2 text-pine">Every key on this paper earns full marks.</p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <ButtonLink href={exam}>Back to the plan</ButtonLink>
        <ButtonLink href={next} look="main">
          Try another paper
        </ButtonLink>
      </div>
      <div className="mt-4 overflow-x-auto border border-line bg-sheet">
        <table className="w-full">
          <thead>
            <tr className="border-b border-line text-left text-sm text-ink-2 [&>th]:px-3 [&>th]:py-1.5 [&>th]:font-medium">
              <th>
                <span className="sr-only">Number</span>
              </th>
              <th>Question</th>
              <th>Answer</th>
              <th className="text-right">Points</th>
            </tr>
          </thead>
          <tbody>
            {slots.map((slot) => (
              <tr
                key={slot.number}
                className="border-b border-line align-top last:border-b-0 [&>td]:px-3 [&>td]:py-1.5"
              >
                <td className="text-ink-2 tabular-nums">{slot.number}</td>
                <td className="max-w-80">
                  <TextLink href={`${base}/banks/${slot.bankId}?question=${slot.questionId}`} className="font-serif">
                    {slot.name}
                  </TextLink>
                </td>
                <td className="max-w-80 break-words">{slot.answer || <span className="text-ink-2">empty</span>}</td>
                <td className="text-right whitespace-nowrap tabular-nums">
                  {slot.spare ? (
                    <State ink="plain">not chosen</State>
                  ) : slot.points === null ? (
                    <State ink={scored ? 'hand' : 'plain'}>{scored ? 'by hand' : '—'}</State>
                  ) : (
                    <State ink={slot.points >= slot.outOf ? 'done' : slot.points > 0 ? 'waits' : 'wrong'}>
                      {pointsText(slot.points)} of {pointsText(slot.outOf)}
                    </State>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </main>
  );
}
