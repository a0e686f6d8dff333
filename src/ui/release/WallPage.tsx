'use client';
import dynamic from 'next/dynamic';
import { roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { statisticsOf } from '@/core/gradebook/statistics';
import type { QuestionGrid } from '@/server/release/questionGrid';
import { Empty, PageFrame, PageTitle } from '../kit/Page';
import { ShareBar } from '../kit/ShareBar';
import { ResultViews } from './ResultViews';

const DistributionChart = dynamic(() => import('./DistributionChart'), { ssr: false });

/** From how many results on a class is shown as a whole: fewer could tell whose they are. */
const fewest = 5;
const mostListed = 8;

type Props = { base: string; sittingId: string; grid: Omit<QuestionGrid, 'rows'>; percents: number[] };

/** How a class did, without any names and in large type: to be projected on a wall. */
export function WallPage({ base, sittingId, grid, percents }: Props) {
  const statistics = statisticsOf(percents);
  const known = grid.questions.filter((one) => one.mean !== null && one.marked >= fewest);
  const hardest = [...known].sort((a, b) => (a.mean ?? 0) - (b.mean ?? 0)).slice(0, mostListed);
  const easiest = [...known].sort((a, b) => (b.mean ?? 0) - (a.mean ?? 0)).slice(0, mostListed);
  return (
    <PageFrame>
      <PageTitle
        title={grid.title}
        back={{ href: `${base}/sittings/${sittingId}`, name: 'Rules and students' }}
        note="How the class did, without names"
      />
      <ResultViews here={`${base}/sittings/${sittingId}`} now="summary" />
      {!statistics || statistics.n < fewest ? (
        <Empty title="Too few results to show">From {fewest} results on, so that nobody can be guessed.</Empty>
      ) : (
        <div className="text-lg">
          <p className="mb-2 text-2xl">
            {counted(statistics.n, 'result')}, {roundHalfUp(statistics.mean, 0)} % in the mean,{' '}
            {roundHalfUp(statistics.median, 0)} % in the median
          </p>
          <DistributionChart percents={percents} high />
          <div className="mt-6 grid gap-8 lg:grid-cols-2">
            <section>
              <h2 className="mb-2 text-xl">To be looked at again</h2>
              {hardest.map((one) => (
                <ShareBar key={one.questionId} name={one.name} percent={one.mean} of={one.marked} />
              ))}
            </section>
            <section>
              <h2 className="mb-2 text-xl">Known well</h2>
              {easiest.map((one) => (
                <ShareBar key={one.questionId} name={one.name} percent={one.mean} of={one.marked} />
              ))}
            </section>
          </div>
        </div>
      )}
    </PageFrame>
  );
}
