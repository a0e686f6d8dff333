import autocannon from 'autocannon';
import { median, report } from './measure';
import { beginWriting, serveClass, type Writer } from './server';

const connections = 50;
const seconds = 2;
const rounds = 7;

/**
 * autosave.http: saves per second through the real route handler of a production build with 50 connections, each a
 * student of its own. Baseline: a handler of the same build that resolves the session and parses the JSON but writes
 * nothing. Interleaved, median of seven; the plain empty handler and the server's peak memory are reported beside it.
 */
export async function autosaveHttp(): Promise<void> {
  const bench = await serveClass(connections);
  const { origin } = bench.served;
  const writers = await beginWriting(bench);
  let sequence = 0;
  const run = async (kind: 'save' | 'session' | 'empty') => {
    let next = 0;
    const result = await autocannon({
      url: origin,
      connections,
      duration: seconds,
      setupClient: (client) => {
        const writer = writers[next++ % writers.length] as Writer;
        const path =
          kind === 'save'
            ? `/api/attempts/${writer.attemptId}/save`
            : kind === 'session'
              ? '/api/health/session'
              : '/api/health';
        const headers = { 'content-type': 'application/json', origin, cookie: writer.cookie };
        const body = () => {
          sequence += 1;
          return JSON.stringify({
            slotId: writer.slots[sequence % writer.slots.length],
            epoch: writer.epoch,
            sequence,
            value: null,
            comeBack: sequence % 2 === 0,
          });
        };
        client.setHeadersAndBody(headers, body());
        client.setRequests([
          { method: 'POST', path, headers, setupRequest: (request) => ({ ...request, body: body() }) },
        ]);
      },
    });
    if (result.non2xx > 0 || result.errors > 0)
      throw new Error(`${kind}: ${result.non2xx} refused, ${result.errors} errors`);
    return result.requests.total / result.duration;
  };
  const rates = { save: [] as number[], session: [] as number[], empty: [] as number[] };
  for (const kind of ['save', 'session', 'empty'] as const) await run(kind);
  for (let i = 0; i < rounds; i++)
    for (const kind of ['save', 'session', 'empty'] as const) rates[kind].push(await run(kind));
  const value = median(rates.save);
  const baseline = median(rates.session);
  report({
    name: 'autosave.http',
    value,
    unit: 'saves/s',
    baseline,
    ratio: value / baseline,
    emptyHandler: Math.round(median(rates.empty)),
    peakMemoryMB: Math.round(bench.peakMemory()),
  });
  await bench.stop();
}
