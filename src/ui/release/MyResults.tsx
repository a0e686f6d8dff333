import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { OwnTotal } from '@/server/gradebook/myTotal';
import type { MyResult } from '@/server/release/myResults';
import { TotalNumber } from '../gradebook/OwnTotalPage';
import { Link } from '../kit/Link';
import { Empty, State } from '../kit/Page';

/** The results of a student, newest first, each leading to what can be seen of it. */
export function MyResults({ results, totals }: { results: MyResult[]; totals: OwnTotal[] }) {
  return (
    <>
      <h1 className="mb-4 text-2xl">My results</h1>
      {totals.length > 0 && (
        <ul aria-label="My totals" className="mb-5 border border-line bg-sheet">
          {totals.map((total) => (
            <li key={total.courseId} className="border-b border-line last:border-b-0">
              <Link
                href={`/my/totals/${total.courseId}`}
                className="flex flex-wrap items-center justify-between gap-x-6 px-4 py-3 hover:bg-prussian-wash"
              >
                <span>
                  <span className="block font-serif text-lg font-semibold text-prussian">{total.courseName}</span>
                  <span className="text-sm">Your total, how it is computed, and what is still to come</span>
                </span>
                <TotalNumber total={total} />
              </Link>
            </li>
          ))}
        </ul>
      )}
      {results.length === 0 ? (
        <Empty title="Nothing to see yet">
          A result stands here as soon as there is something you may see of it. You get a message when one is published.
        </Empty>
      ) : (
        <ul className="border border-line bg-sheet">
          {results.map((result) => (
            <li key={result.sittingId} className="border-b border-line last:border-b-0">
              <Link
                href={`/my/results/${result.sittingId}`}
                className="flex flex-wrap items-center justify-between gap-x-6 px-4 py-3 hover:bg-prussian-wash"
              >
                <span>
                  <span className="block font-serif text-lg font-semibold text-prussian">{result.title}</span>
                  <span className="text-ink-2">
                    {result.courseName} · {momentText(result.at, result.timeZone)}
                  </span>
                  <span className="block text-sm">{seenSaid(result)}</span>
                </span>
                {result.score && <Score score={result.score} before={result.before} />}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function Score({ score, before }: { score: NonNullable<MyResult['score']>; before: MyResult['before'] }) {
  if (score.waiting > 0)
    return (
      <span className="sm:text-right">
        <span className="text-xl font-medium tabular-nums">
          {pointsText(score.earned)} of {pointsText(score.marked)}
        </span>
        <span className="block text-ink-2">so far; {counted(score.waiting, 'question')} still to be marked</span>
      </span>
    );
  return (
    <span className="sm:text-right">
      <span className="text-xl font-medium tabular-nums">
        {pointsText(score.earned)} of {pointsText(score.possible)}
      </span>
      <span className="block text-ink-2 tabular-nums">
        {roundHalfUp(score.possible > 0 ? (score.earned / score.possible) * 100 : 0, score.decimals)} %
        {score.band && ` · ${score.band.label}`}
        {score.preliminary && ' · preliminary'}
      </span>
      {before && (
        <span className="block text-sm text-prussian tabular-nums">
          changed, was {pointsText(before.earned)} of {pointsText(before.possible)}
        </span>
      )}
    </span>
  );
}

/** What can be seen of a result, in a few words. */
function seenSaid({ visible, once, done, takenBack }: MyResult) {
  const seen = new Set(visible);
  const said = [
    seen.has('right-answers')
      ? 'with right answers'
      : seen.has('right-or-wrong')
        ? 'with what was right and wrong'
        : seen.has('questions')
          ? 'with the questions'
          : '',
    once ? 'something can be opened once' : '',
    takenBack === null ? '' : 'taken back for now',
  ].filter(Boolean);
  return (
    <>
      {done !== null && (
        <>
          {done ? <State ink="done">done</State> : <State ink="waits">not done yet</State>}
          {said.length > 0 && ' · '}
        </>
      )}
      {said.join(' · ')}
    </>
  );
}
