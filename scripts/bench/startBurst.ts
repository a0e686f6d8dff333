import { Agent, request } from 'node:http';
import { report } from './measure';
import { serveClass } from './server';

const students = 300;
const within = 1_000;

/**
 * start.burst: 300 signed-in students start within a second, 20 questions each: the start, which brings the
 * paper and the right to write, and the taking page. value: seconds until the last has a usable page. Baseline: the same burst on a bare page.
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
  const agent = new Agent({ keepAlive: true });
  /** A light client: on one machine it must not take the time that it measures. */
  const send = (path: string, cookie: string, body?: unknown) =>
    new Promise<string>((resolve, reject) => {
      const method = body === undefined ? 'GET' : 'POST';
      const headers = { cookie, origin, 'content-type': 'application/json' };
      const asked = request(origin + path, { agent, method, headers }, (answer) => {
        const chunks: Buffer[] = [];
        answer.on('data', (chunk: Buffer) => chunks.push(chunk));
        answer.on('end', () => {
          if (answer.statusCode === 200) resolve(Buffer.concat(chunks).toString('utf8'));
          else reject(new Error(`${path} answered ${answer.statusCode}`));
        });
      });
      asked.on('error', reject);
      asked.end(body === undefined ? undefined : JSON.stringify(body));
    });
  await send('/bare', '');
  const baseline = await burst(async (cookie) => void (await send('/bare', cookie)));
  const value = await burst(async (cookie) => {
    const started = JSON.parse(await send('/api/attempts/start', cookie, { sittingId: bench.sittingId })) as {
      attemptId: string;
      opening: { slots: unknown[] };
    };
    if (started.opening.slots.length !== 20) throw new Error(`A paper holds ${started.opening.slots.length} questions`);
    await send(`/take/${started.attemptId}`, cookie);
  });
  agent.destroy();
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
