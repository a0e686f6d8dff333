import { post } from '../../e2e/serve';
import { report } from './measure';
import { serveClass } from './server';

const students = 300;
const within = 1_000;

/**
 * start.burst: 300 signed-in students start within a second, 20 questions each: start, the taking page, the writer's
 * right. value: seconds until the last has a usable page. Baseline: the same burst on a bare page.
 */
export async function startBurst(): Promise<void> {
  const bench = await serveClass(students);
  const { origin } = bench.served;
  const burst = async (visit: (cookie: string) => Promise<void>) => {
    const begun = performance.now();
    await Promise.all(
      bench.cookies.map(async (cookie, i) => {
        await new Promise((resolve) => setTimeout(resolve, (i / students) * within));
        await visit(cookie);
      }),
    );
    return (performance.now() - begun) / 1000;
  };
  const page = async (path: string, cookie: string) => {
    const response = await fetch(origin + path, { headers: { cookie } });
    if (!response.ok) throw new Error(`${path} answered ${response.status}`);
    return response.text();
  };
  const bare = () => burst(async (cookie) => void (await page('/bare', cookie)));
  await page('/bare', '');
  const baseline = await bare();
  const value = await burst(async (cookie) => {
    const started = await post(origin, '/api/attempts/start', { sittingId: bench.sittingId }, cookie);
    if (!started.ok) throw new Error(`Starting answered ${started.status}`);
    const { attemptId } = (await started.json()) as { attemptId: string };
    await page(`/take/${attemptId}`, cookie);
    const opened = await post(origin, `/api/attempts/${attemptId}/open`, null, cookie);
    if (!opened.ok) throw new Error(`Opening answered ${opened.status}`);
    const { slots } = (await opened.json()) as { slots: unknown[] };
    if (slots.length !== 20) throw new Error(`A paper holds ${slots.length} questions`);
  });
  report({
    name: 'start.burst',
    value,
    unit: 's',
    baseline,
    ratio: value / baseline,
    failed: 0,
    peakMemoryMB: Math.round(bench.peakMemory()),
  });
  await bench.stop();
}
