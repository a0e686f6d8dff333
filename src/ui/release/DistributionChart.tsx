'use client';
import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { palette } from '@/core/base/palette';
import { counted } from '@/core/base/words';
import { distribution } from '@/core/gradebook/statistics';
import { chartOptions, prussian } from '../kit/chartLook';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

const steps = 10;

/** How many students lie in each tenth of the points. */
export default function DistributionChart({ percents, high }: { percents: number[]; high?: boolean }) {
  const counts = distribution(percents, steps);
  const options = chartOptions('result, percent of the points', 'students');
  const said = counts.map((n, i) => `${n} from ${i * 10} to ${(i + 1) * 10} percent`);
  return (
    <div className={`relative min-w-0 ${high ? 'h-96' : 'h-36'}`}>
      <Bar
        role="img"
        aria-label={`Distribution of ${counted(percents.length, 'result')}: ${said.join(', ')}.`}
        options={{ ...options, plugins: { legend: { display: false } } }}
        data={{
          labels: counts.map((_, i) => `${i * 10}–${(i + 1) * 10}`),
          datasets: [
            {
              data: counts,
              backgroundColor: palette.prussianWash,
              borderColor: prussian,
              borderWidth: 1.5,
              categoryPercentage: 0.98,
              barPercentage: 0.98,
            },
          ],
        }}
      />
    </div>
  );
}
