import type { Metadata } from 'next';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import { myResults } from '@/server/release/myResults';
import { Empty } from '@/ui/kit/Page';
import { pageContext } from '../../request';

export const metadata: Metadata = { title: 'My results' };

export default async function MyResultsPage() {
  const results = myResults(await pageContext());
  return (
    <>
      <h1 className="mb-4 text-2xl">My results</h1>
      {results.length === 0 ? (
        <Empty title="Nothing published yet">
          A result stands here as soon as your instructor publishes it. You get a message when that happens.
        </Empty>
      ) : (
        <ul className="border border-line bg-sheet">
          {results.map((result) => (
            <li
              key={result.sittingId}
              className="flex flex-wrap items-center justify-between gap-x-6 border-b border-line px-4 py-3 last:border-b-0"
            >
              <div>
                <h2 className="text-lg">{result.title}</h2>
                <p className="text-ink-2">
                  {result.courseName} · published {momentText(result.publishedAt, result.timeZone)}
                </p>
              </div>
              {result.score && (
                <p className="text-right">
                  <span className="text-xl font-medium tabular-nums">
                    {pointsText(result.score.earned)} of {pointsText(result.score.possible)}
                  </span>
                  <span className="block text-ink-2 tabular-nums">
                    {roundHalfUp(
                      result.score.possible > 0 ? (result.score.earned / result.score.possible) * 100 : 0,
                      1,
                    )}{' '}
                    %
                  </span>
                </p>
              )}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
