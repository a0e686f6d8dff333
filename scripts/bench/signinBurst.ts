import { lightClient } from './client';
import { report } from './measure';
import { benchPassword, serveClass } from './server';

const students = 300;
const within = 60_000;

/**
 * signin.burst: 300 students sign in from one address within a minute. value: seconds until the last is in. Baseline: the
 * same burst on the sign-in page alone.
 */
export async function signinBurst(): Promise<void> {
  const bench = await serveClass(students, 0);
  const client = lightClient(bench.served.origin);
  const burst = async (visit: (i: number) => Promise<void>): Promise<number> => {
    const begun = performance.now();
    await Promise.all(
      Array.from({ length: students }, async (_, i) => {
        await new Promise((resolve) => setTimeout(resolve, (i / students) * within));
        await visit(i);
      }),
    );
    return (performance.now() - begun) / 1_000;
  };
  let refused = 0;
  let slowest = 0;
  const baseline = await burst(async () => void (await client.send('/sign-in', '')));
  const value = await burst(async (i) => {
    const answer = await client.send('/api/sign-in', '', {
      name: `student${i}@bench.example`,
      password: benchPassword,
    });
    slowest = Math.max(slowest, answer.took);
    if (answer.status !== 200) refused += 1;
  });
  client.close();
  report({
    name: 'signin.burst',
    value,
    unit: 's',
    baseline,
    ratio: value / baseline,
    refused,
    slowestMs: Math.round(slowest),
    peakMemoryMB: Math.round(bench.peakMemory()),
  });
  await bench.stop();
}
