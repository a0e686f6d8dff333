'use client';
import { useEffect, useState } from 'react';
import { longestRuler } from '@/core/attempt/paperRuler';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { durationText, momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { completionSaid } from '@/core/gradebook/completion';
import { factNames } from '@/core/release/plan';
import { inARow } from '@/core/release/planSaid';
import type { Review } from '@/server/release/review';
import { ReportQuestion } from '../attempt/ReportQuestion';
import { useWritten } from '../keep/useWritten';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { TextArea } from '../kit/Field';
import { Sheet, State } from '../kit/Page';
import { PaperRuler } from '../kit/PaperRuler';
import { Problems, problemAt } from '../kit/Problems';
import { RichText } from '../kit/RichText';
import { TextLink } from '../kit/TextLink';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { WholeSheet } from '../kit/WholeSheet';
import { ReviewedQuestion } from './ReviewedQuestion';

type ReviewCommands = Commands<'replyToFeedback' | 'openOnce' | 'reportQuestion' | 'noteSeen', 'sittingId'>;

type Props = {
  review: Review;
  /** The address of this page, for its other attempts. */
  here: string;
  /** Null where it is only looked at as a student. */
  commands: ReviewCommands | null;
  cardsHref: string | null;
};

/** What a student sees of a sitting now: score, band, paper, feedback, and the way to reply. Exactly what the plan allows. */
export function ReviewPage({ review, here, commands, cardsHref }: Props) {
  const { score, questions, visible, timeZone } = review;
  const sees = new Set(visible);
  const [onlyMissed, setOnlyMissed] = useState(false);
  const missed = questions.filter((one) => one.outcome === 'wrong' || one.outcome === 'partly');
  const shown = onlyMissed ? missed : questions;
  const seen = commands?.noteSeen;
  useEffect(() => {
    if (visible.length > 0) void seen?.().catch(() => null);
  }, [seen, visible.length]);
  return (
    <article>
      <h1 className="text-2xl">{review.title}</h1>
      <p className="mb-4 text-ink-2">{review.courseName}</p>
      {score && <ScoreSheet review={review} score={score} />}
      {review.completion && (
        <p className="mb-4">
          {review.completion.done ? (
            <State ink="done">done</State>
          ) : (
            <State ink="waits">not done yet: {completionSaid(review.completion.said)}</State>
          )}
        </p>
      )}
      <Waiting review={review} />
      {review.once && <Once once={review.once} openOnce={commands?.openOnce ?? null} />}
      {review.openUntil !== null && (
        <p className="mb-4 bg-saffron-wash px-4 py-2 text-saffron">
          You can look at this until {momentText(review.openUntil, timeZone)}; it cannot be opened again.
        </p>
      )}
      {questions.length > 0 && (
        <>
          <div className="mt-6 mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
            <h2 className="text-xl">Your paper</h2>
            {review.attempts.length > 1 && (
              <nav aria-label="Attempts" className="flex gap-3">
                {review.attempts.map((one) =>
                  one.number === review.attempt ? (
                    <strong key={one.number}>
                      Attempt {one.number}
                      {one.counts && ', counts'}
                    </strong>
                  ) : (
                    <TextLink key={one.number} href={`${here}${here.includes('?') ? '&' : '?'}attempt=${one.number}`}>
                      Attempt {one.number}
                      {one.counts && ', counts'}
                    </TextLink>
                  ),
                )}
              </nav>
            )}
            {sees.has('right-or-wrong') && (
              <span className="text-ink-2">
                {missed.length === 0 ? 'Nothing missed' : `${counted(missed.length, 'question')} missed`}
              </span>
            )}
          </div>
          {sees.has('right-or-wrong') && questions.length <= longestRuler && (
            <PaperRuler size="page" signs={review.signs} label="Your paper" />
          )}
          <div className="my-3 flex flex-wrap items-center gap-x-5">
            {missed.length > 0 && missed.length < questions.length && (
              <Tick on={onlyMissed} onChange={setOnlyMissed}>
                Only what I missed
              </Tick>
            )}
            {review.cards && cardsHref && <ButtonLink href={cardsHref}>Study what you missed as cards</ButtonLink>}
          </div>
          <WholeSheet sheets={review.sheets} said="Your answer sheet as it was read in" className="my-3" />
          <ol className="space-y-4">
            {shown.map((question, i) => (
              <li key={question.slotId}>
                {question.passage &&
                  shown[i - 1]?.passage !== question.passage &&
                  review.passages[question.passage] && (
                    <Sheet className="mb-2 px-4 py-3 sm:px-6">
                      <RichText rich={review.passages[question.passage] as never} />
                    </Sheet>
                  )}
                <ReviewedQuestion question={question} seesOwn={sees.has('own-answers')}>
                  {commands && review.attemptId !== null && (
                    <ReportQuestion
                      slotId={question.slotId}
                      number={question.number}
                      onReport={async (text) => {
                        const answer = await commands
                          .reportQuestion(review.attemptId as string, question.slotId, text)
                          .catch(() => null);
                        if (answer?.ok) return null;
                        return answer?.problems[0]?.message ?? 'The server could not be reached. Try again.';
                      }}
                    />
                  )}
                </ReviewedQuestion>
              </li>
            ))}
          </ol>
        </>
      )}
      {(review.mayReply || review.replies.length > 0) && (
        <Replies review={review} reply={review.mayReply ? (commands?.replyToFeedback ?? null) : null} />
      )}
    </article>
  );
}

function ScoreSheet({ review, score }: { review: Review; score: NonNullable<Review['score']> }) {
  const percent = score.possible > 0 ? (score.earned / score.possible) * 100 : 0;
  return (
    <Sheet label="Score" className="mb-4 px-5 py-4">
      {score.preliminary && (
        <p className="mb-1">
          <State ink="waits">preliminary score</State>{' '}
          <span className="text-ink-2">It can change until your instructor publishes it.</span>
        </p>
      )}
      {score.waiting > 0 ? (
        <p>
          <span className="text-3xl font-medium tabular-nums">
            {pointsText(score.earned)} of {pointsText(score.marked)}
          </span>{' '}
          <span className="text-ink-2">
            points marked so far; {counted(score.waiting, 'question')} still to be marked, {pointsText(score.possible)}{' '}
            points in all
          </span>
        </p>
      ) : (
        <p className="flex flex-wrap items-baseline gap-x-4">
          <span className="text-3xl font-medium tabular-nums">
            {pointsText(score.earned)} of {pointsText(score.possible)}
          </span>
          <span className="text-lg text-ink-2 tabular-nums">{roundHalfUp(percent, score.decimals)} %</span>
          {score.band && <span className="font-serif text-2xl">{score.band.label}</span>}
        </p>
      )}
      {review.changed.length > 0 && (
        <div className="mt-2 border-l-2 border-prussian pl-3">
          {review.changed.map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
        </div>
      )}
      {review.adjusted.map((sentence) => (
        <p key={sentence} className="mt-1">
          {sentence}
        </p>
      ))}
      {score.band?.comment && <p className="mt-2 font-serif text-lg">{score.band.comment}</p>}
      <p className="mt-1 text-sm text-ink-2">
        {score.preliminary ? 'As of' : 'Published'} {momentText(score.publishedAt, review.timeZone)}
      </p>
    </Sheet>
  );
}

/** What is not shown yet, and when it is; and until when what is shown stays. */
function Waiting({ review }: { review: Review }) {
  const { comes, takenBack, timeZone, visible } = review;
  if (comes.length === 0 && takenBack === null && visible.length > 0) return null;
  return (
    <div className="mb-4 space-y-1 text-ink-2">
      {takenBack !== null && (
        <p className="bg-saffron-wash px-4 py-2 text-saffron">
          Your instructor took this result back on {momentText(takenBack, timeZone)}. You get a message when it is
          published again.
        </p>
      )}
      {visible.length === 0 && takenBack === null && <p>There is nothing to see of this yet.</p>}
      {comes.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
    </div>
  );
}

const lower = (text: string) => `${text[0]?.toLowerCase()}${text.slice(1)}`;

function Once({ once, openOnce }: { once: NonNullable<Review['once']>; openOnce: ReviewCommands['openOnce'] | null }) {
  const { perform, problems, busy } = usePerform();
  const [sure, setSure] = useState(false);
  const what = inARow(once.facts.map((fact) => lower(factNames[fact])));
  return (
    <Sheet className="mb-4 px-5 py-4">
      <p>
        You can look at {what} <strong>once, for {durationText(once.for)}</strong>. The time runs from the moment you
        open it, also if you leave the page.
      </p>
      <Problems problems={problems} className="mt-2" />
      {openOnce && (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          <Tick on={sure} onChange={setSure}>
            I have the time now
          </Tick>
          <Button
            look="main"
            disabled={busy}
            whyNot={sure ? null : 'Tick that you have the time now.'}
            onClick={() => void perform(() => openOnce())}
          >
            Open it now
          </Button>
        </div>
      )}
    </Sheet>
  );
}

/** What the student has to say to it. */
function Replies({ review, reply }: { review: Review; reply: ReviewCommands['replyToFeedback'] | null }) {
  const { perform, problems, busy } = usePerform();
  const {
    value: text,
    change: setText,
    done,
    isUnfinished,
  } = useWritten('reply', (typed) => (typed.trim() ? 'A reply to your feedback' : null), '');
  return (
    <section aria-label="Your reply" className="mt-8">
      <h2 className="mb-2 text-xl">Your reply</h2>
      {review.replies.map((one) => (
        <Sheet key={one.at} className="mb-2 px-4 py-3">
          <p className="whitespace-pre-wrap">{one.text}</p>
          <p className="mt-1 text-sm text-ink-2">
            Sent {momentText(one.at, review.timeZone)}
            {one.answer ? '' : one.read ? ', read' : ', not read yet'}
          </p>
          {one.answer && (
            <div className="mt-2 border-l-2 border-prussian pl-3">
              <p className="whitespace-pre-wrap">{one.answer.text}</p>
              <p className="mt-1 text-sm text-ink-2">
                Answered by {one.answer.by}, {momentText(one.answer.at, review.timeZone)}
              </p>
            </div>
          )}
        </Sheet>
      ))}
      {reply && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void perform(
              () => reply(text),
              () => done(),
            );
          }}
        >
          <TextArea
            label={review.replies.length ? 'Write again' : 'What do you take from this, and what is unclear?'}
            rows={4}
            value={text}
            problem={problemAt(problems, 'text')}
            onChange={(event) => setText(event.target.value)}
            hint={`Your instructor reads it.${isUnfinished ? ' Not sent yet.' : ''}`}
          />
          <Problems problems={problems.filter((one) => one.field !== 'text')} className="mt-1" />
          <Button type="submit" look="main" disabled={busy} className="mt-2">
            Send the reply
          </Button>
        </form>
      )}
    </section>
  );
}
