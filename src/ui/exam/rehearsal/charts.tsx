'use client';
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js';
import { Bar, Line } from 'react-chartjs-2';
import { palette } from '@/core/base/palette';
import type { NamedUse, RehearsedPapers } from '@/core/exam/rehearsal';
import { chartOptions as options, prussian } from '../../kit/chartLook';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
);

/** Plain draws are hollow, equally hard ones filled: told apart without colour. */
const hollow = { backgroundColor: palette.white, borderColor: prussian, borderWidth: 1.5 };
const filled = { backgroundColor: prussian, borderColor: prussian, borderWidth: 1.5 };

const binWidth = 2;

/** How many papers have an expected score in each bin of two points of 100. */
export function ScoreChart({ plain, equal }: { plain: RehearsedPapers; equal: RehearsedPapers }) {
  const from = Math.floor((100 * Math.min(plain.scores.lowest, equal.scores.lowest)) / binWidth) * binWidth;
  const to = 100 * Math.max(plain.scores.highest, equal.scores.highest);
  const bins = Math.max(1, Math.floor((to - from) / binWidth) + 1);
  const count = (side: RehearsedPapers) => {
    const counts = new Array<number>(bins).fill(0);
    for (const score of side.scores.all) {
      const at = Math.min(bins - 1, Math.floor((100 * score - from) / binWidth));
      counts[at] = (counts[at] ?? 0) + 1;
    }
    return counts;
  };
  return (
    <div className="relative h-64 min-w-0">
      <Bar
        role="img"
        aria-label={`Expected scores: plain papers from ${(100 * plain.scores.lowest).toFixed(1)} to ${(100 * plain.scores.highest).toFixed(1)}, equally hard ones from ${(100 * equal.scores.lowest).toFixed(1)} to ${(100 * equal.scores.highest).toFixed(1)} percent.`}
        options={options('expected score, percent', 'papers')}
        data={{
          labels: Array.from({ length: bins }, (_, i) => `${from + i * binWidth}–${from + (i + 1) * binWidth}`),
          datasets: [
            { label: 'plain', data: count(plain), ...hollow },
            { label: 'equally hard', data: count(equal), ...filled },
          ],
        }}
      />
    </div>
  );
}

/** How many pairs of first papers share so many questions. */
export function OverlapChart({
  plain,
  equal,
  expected,
}: {
  plain: RehearsedPapers;
  equal: RehearsedPapers;
  expected: number | null;
}) {
  const most = Math.max(plain.overlap.pairs.length, equal.overlap.pairs.length, 1);
  const pairs = (side: RehearsedPapers) => Array.from({ length: most }, (_, k) => side.overlap.pairs[k] ?? 0);
  return (
    <div className="relative h-64 min-w-0">
      <Bar
        role="img"
        aria-label={`Questions that two papers share: ${plain.overlap.mean.toFixed(2)} in the mean when drawn plainly${expected === null ? '' : `, ${expected.toFixed(2)} expected`}; ${equal.overlap.mean.toFixed(2)} when equally hard.`}
        options={options('questions in common', 'pairs of papers')}
        data={{
          labels: Array.from({ length: most }, (_, k) => String(k)),
          datasets: [
            { label: 'plain', data: pairs(plain), ...hollow },
            { label: 'equally hard', data: pairs(equal), ...filled },
          ],
        }}
      />
    </div>
  );
}

/** On how many papers each question stands, from the most used to the least. */
export function UseChart({ uses }: { uses: NamedUse[] }) {
  const sorted = (side: 'plain' | 'equal') => uses.map((use) => use[side]).sort((a, b) => b - a);
  const line = { borderWidth: 1.5, pointRadius: 0, stepped: 'middle' as const, borderColor: prussian };
  return (
    <div className="relative h-56 min-w-0">
      <Line
        role="img"
        aria-label={`Use of ${uses.length} questions, from ${Math.max(...sorted('plain'))} papers down to ${Math.min(...sorted('plain'))} when drawn plainly, from ${Math.max(...sorted('equal'))} to ${Math.min(...sorted('equal'))} when equally hard.`}
        options={options('questions, the most used first', 'papers')}
        data={{
          labels: uses.map((_, i) => String(i + 1)),
          datasets: [
            { label: 'plain', data: sorted('plain'), ...line, borderDash: [5, 4] },
            { label: 'equally hard', data: sorted('equal'), ...line },
          ],
        }}
      />
    </div>
  );
}
