import { palette } from '@/core/base/palette';

/** How charts look: axes with their titles and units, hairlines, our type, nothing that moves. */
const { ink, ink2, line: hairline } = palette;
export const { prussian } = palette;
const face = "'Atkinson Hyperlegible Next Variable', sans-serif";

const axis = (says: string) => ({
  title: { display: true, text: says, color: ink2, font: { family: face, size: 13 } },
  ticks: { color: ink2, font: { family: face, size: 12 }, precision: 0, maxTicksLimit: 12 },
  grid: { color: hairline },
  border: { color: ink2 },
});

/** @param across what the axis across says, with its unit; `up` what the one upwards does */
export const chartOptions = (across: string, up: string) => ({
  animation: false as const,
  maintainAspectRatio: false,
  scales: { x: { ...axis(across), grid: { display: false } }, y: { ...axis(up), beginAtZero: true } },
  plugins: {
    legend: { labels: { color: ink, font: { family: face, size: 13 }, boxWidth: 14, boxHeight: 14 } },
  },
});
