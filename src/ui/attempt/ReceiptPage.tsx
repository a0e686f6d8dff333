import { asideSaid, standingSaid } from '@/core/attempt/standing';
import { momentText } from '@/core/base/time';
import type { Receipt } from '@/server/attempt/handIn';
import { ButtonLink } from '../kit/Button';
import { Sheet } from '../kit/Page';
import { TextLink } from '../kit/TextLink';
import { textLook } from '../kit/textLook';
import { SignOut } from '../people/SignOut';
import { WatchStanding } from './WatchStanding';

/** How an attempt stands, in the words in which its taking page and the list of exams say it, and what its student keeps of it. */
export function ReceiptPage({ receipt }: { receipt: Receipt }) {
  const { attemptId, sittingTitle, standing, timeZone, answers, asides, code, nextTask } = receipt;
  const { title, happened, kept, next } = standingSaid(standing, timeZone, answers);
  const runs = standing.kind === 'running' || standing.kind === 'grace';
  const isIn = standing.kind === 'handed-in';
  const scoreComes = receipt.scored && isIn && answers !== null;
  return (
    <Sheet className="px-6 py-5 text-lg">
      <WatchStanding attemptId={attemptId} shown={{ standing, asides }} />
      <h1 className="text-2xl">
        {title}: {sittingTitle}
      </h1>
      {happened && <p className="mt-2">{happened}</p>}
      <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1">
        {'at' in standing && (
          <>
            <dt className="text-ink-2">When</dt>
            <dd>
              {momentText(standing.at, timeZone)} ({timeZone})
            </dd>
          </>
        )}
        {(kept || !runs) && (
          <>
            <dt className="text-ink-2">Answers</dt>
            <dd>{kept || anonymousSaid(receipt)}</dd>
          </>
        )}
        {code && !runs && (
          <>
            <dt className="text-ink-2">Receipt code</dt>
            <dd className="font-mono">{code}</dd>
          </>
        )}
      </dl>
      {asides.length > 0 && (
        <section aria-label="Kept aside" className="mt-4 border border-saffron bg-saffron-wash px-4 py-2 text-base">
          <h2 className="font-sans text-base font-medium text-saffron">Kept aside</h2>
          <ul>
            {asides.map((aside) => (
              <li key={`${aside.number} ${aside.receivedAt} ${aside.reason}`} className="mt-1">
                {asideSaid(aside, timeZone)}
              </li>
            ))}
          </ul>
        </section>
      )}
      <h2 className="mt-5 text-lg">What comes next</h2>
      {next && <p className="mt-1">{next}</p>}
      {runs && (
        <p className="mt-3 text-base">
          <ButtonLink look="main" href={`/take/${attemptId}`}>
            {standing.kind === 'grace' ? 'To the hand-in' : 'Go on'}
          </ButtonLink>
        </p>
      )}
      {isIn && nextTask && <p className="mt-1 whitespace-pre-wrap">{nextTask}</p>}
      {scoreComes && (
        <p className="mt-1">
          {receipt.afterwards.join(' ')} It stands under{' '}
          <TextLink href={`/my/results/${receipt.sittingId}`}>My results</TextLink>.
        </p>
      )}
      {isIn && !nextTask && !scoreComes && <p className="mt-1">Nothing: you are done with this one.</p>}
      <p className="mt-4 flex gap-5 text-base">
        <TextLink href="/my">Back to my exams</TextLink>
        <SignOut className={textLook()} />
      </p>
    </Sheet>
  );
}

/** What became of answers of which nobody knows whose they are. */
const anonymousSaid = ({ standing }: Receipt): string =>
  standing.kind === 'handed-in' && standing.by === 'clock'
    ? 'none stored: the time was over before they reached us'
    : standing.kind === 'handed-in'
      ? 'stored without your name'
      : 'none stored';
