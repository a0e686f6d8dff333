import Database from 'better-sqlite3';
import { databaseFile } from '../../src/db/client';
import { lightClient, percentile } from './client';
import { median, report } from './measure';
import { serveClass } from './server';

const students = 1_000;
const seconds = 180;
/** `--short`: one round instead of three. */
const rounds = process.argv.includes('--short') ? 1 : 3;
type Writer = {
  cookie: string;
  attemptId: string;
  stream: Awaited<ReturnType<ReturnType<typeof lightClient>['listen']>>;
  epoch: number;
  slots: string[];
  sequence: number;
};

/** Pauses between saves and signs of life, in milliseconds. */
const savePause = { from: 15_000, to: 25_000 };
const pulsePause = 30_000;

/**
 * sit.load: a thousand students in one sitting, each saving every 15 to 25 s and giving a sign of life every 30 s, with a
 * stream of events open. value: the 99th percentile in milliseconds of all their requests, the median of three rounds of
 * three minutes. Baseline: the same percentile of an empty handler asked for twice a second meanwhile. Afterwards every
 * acknowledged answer is compared with what is stored.
 */
export async function sitLoad(): Promise<void> {
  const bench = await serveClass(students);
  const { origin, folder } = bench.served;
  const client = lightClient(origin);
  const writers: Writer[] = [];
  for (let i = 0; i < students; i += 25)
    writers.push(
      ...(await Promise.all(
        bench.cookies.slice(i, i + 25).map(async (cookie) => {
          const started = await client.send('/api/attempts/start', cookie, { sittingId: bench.sittingId });
          if (started.status !== 200) throw new Error(`A start answered ${started.status}`);
          const { attemptId, opening } = JSON.parse(started.text) as {
            attemptId: string;
            opening: { epoch: number; slots: { slotId: string }[] };
          };
          const stream = await client.listen(`/api/attempts/${attemptId}/live?epoch=${opening.epoch}`, cookie);
          return {
            cookie,
            attemptId,
            stream,
            epoch: opening.epoch,
            slots: opening.slots.map((slot) => slot.slotId),
            sequence: 0,
          };
        }),
      )),
    );
  const acknowledged = new Map<string, string>();
  /** How often what was answered that was no success; 0 stands for no answer at all. */
  const failed: Record<number, number> = {};
  let requests = 0;
  const wait = (milliseconds: number) => new Promise<void>((resolve) => setTimeout(resolve, milliseconds));
  const round = async (): Promise<{ value: number; baseline: number }> => {
    const took: number[] = [];
    const empty: number[] = [];
    const until = Date.now() + seconds * 1_000;
    const note = (answer: { status: number; took: number }) => {
      requests += 1;
      took.push(answer.took);
      if (answer.status !== 200) failed[answer.status] = (failed[answer.status] ?? 0) + 1;
      return answer.status === 200;
    };
    const saving = writers.map(async (writer, i) => {
      await wait((i / students) * savePause.to);
      while (Date.now() < until) {
        writer.sequence += 1;
        const { attemptId, cookie, epoch, sequence, slots } = writer;
        const slotId = slots[(sequence * 7 + i) % slots.length] as string;
        // Fits no type of question better than an empty one: what counts is that it is stored and compared.
        const comeBack = sequence % 2 === 1;
        const answer = await client.send(`/api/attempts/${attemptId}/save`, cookie, {
          slotId,
          epoch,
          sequence,
          value: null,
          comeBack,
        });
        if (note(answer)) acknowledged.set(slotId, `${sequence}/${comeBack ? 1 : 0}`);
        await wait(savePause.from + Math.random() * (savePause.to - savePause.from));
      }
    });
    const beating = writers.map(async ({ attemptId, cookie, epoch }, i) => {
      await wait((i / students) * pulsePause);
      while (Date.now() < until) {
        note(await client.send(`/api/attempts/${attemptId}/pulse`, cookie, { epoch }));
        await wait(pulsePause);
      }
    });
    const idling = (async () => {
      while (Date.now() < until) {
        empty.push((await client.send('/api/health', '')).took);
        await wait(500);
      }
    })();
    await Promise.all([...saving, ...beating, idling]);
    return { value: percentile(took, 0.99), baseline: percentile(empty, 0.99) };
  };
  const values: number[] = [];
  const baselines: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const { value, baseline } = await round();
    values.push(value);
    baselines.push(baseline);
  }
  const streams = writers.filter((writer) => writer.stream.isOpen()).length;
  const db = new Database(databaseFile(folder), { readonly: true });
  const stored = new Map(
    (
      db.prepare('select slot_id as id, sequence, come_back as comeBack from response').all() as {
        id: string;
        sequence: number;
        comeBack: number;
      }[]
    ).map((row) => [row.id, `${row.sequence}/${row.comeBack}`]),
  );
  db.close();
  const lost = [...acknowledged].filter(([slotId, said]) => stored.get(slotId) !== said).length;
  for (const { stream } of writers) stream.close();
  client.close();
  const value = median(values);
  const baseline = median(baselines);
  report({
    name: 'sit.load',
    value,
    unit: 'ms (99th percentile)',
    baseline,
    ratio: value / baseline,
    requests,
    failed,
    answers: acknowledged.size,
    lost,
    streamsOpen: streams,
    rounds: values.map((one) => Math.round(one)),
    peakMemoryMB: Math.round(bench.peakMemory()),
  });
  await bench.stop();
}
