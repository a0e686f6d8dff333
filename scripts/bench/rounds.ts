import { request } from 'node:http';
import { and, eq, isNull } from 'drizzle-orm';
import { signIn } from '../../e2e/serve';
import { usualRound } from '../../src/core/round/roundRules';
import { databaseFile, openDatabase } from '../../src/db/client';
import { doorCode, exam, user } from '../../src/db/schema';
import { setPassword } from '../../src/server/people/auth';
import { beginRound } from '../../src/server/round/beginRound';
import { lightClient, percentile } from './client';
import { median, report } from './measure';
import { benchPassword, serveClass } from './server';

const devices = 300;
const times = 5;
const clockToken = 'clock-of-the-tests';

/** A stream of events as a device holds it: each event is kept with the moment at which it was there as a whole. */
function listen(origin: string, path: string, headers: Record<string, string>) {
  const events: { at: number; data: string }[] = [];
  let rest = '';
  const ready = new Promise<void>((resolve, reject) => {
    const asked = request(origin + path, { headers, agent: false }, (answer) => {
      if (answer.statusCode !== 200) return reject(new Error(`${path} answered ${answer.statusCode}`));
      answer.setEncoding('utf8');
      answer.on('data', (chunk: string) => {
        rest += chunk;
        const whole = rest.split('\n\n');
        rest = whole.pop() ?? '';
        const at = performance.now();
        for (const one of whole) if (one.startsWith('data: ')) events.push({ at, data: one.slice(6) });
        if (events.length) resolve();
      });
      answer.on('error', () => undefined);
    });
    asked.on('error', () => undefined);
    asked.end();
    streams.push(asked);
  });
  return { events, ready };
}
const streams: ReturnType<typeof request>[] = [];

const until = async (holds: () => boolean) => {
  while (!holds()) await new Promise((resolve) => setTimeout(resolve, 1));
};

/** A led round over a class's server, and how its instructor asks it. */
async function openRound() {
  const bench = await serveClass(1);
  const { origin, folder } = bench.served;
  const db = openDatabase(databaseFile(folder));
  const teacher = db.select().from(user).where(eq(user.email, 'teacher@bench.example')).get();
  await setPassword(db, teacher?.id ?? '', benchPassword);
  const examId = db.select().from(exam).get()?.id ?? '';
  const context = { db, actor: { userId: teacher?.id ?? '', name: 'Bench Teacher' }, now: Date.now() };
  const begun = beginRound(context, bench.courseId, { examId, rules: usualRound });
  if (!begun.ok) throw new Error(begun.problems[0]?.message);
  const { sittingId } = begun.value;
  const code = db
    .select()
    .from(doorCode)
    .where(and(eq(doorCode.courseId, bench.courseId), isNull(doorCode.until)))
    .get()?.code;
  db.$client.close();
  const cookie = await signIn(origin, 'teacher@bench.example', benchPassword);
  const client = lightClient(origin);
  const here = `/c/${bench.courseId}/rounds/${sittingId}`;
  const lead = (kind: string, question: number) => client.send(`${here}/lead`, cookie, { kind, question });
  /** One device comes in by a typed name. @returns its cookies and its attempt, and how long it took */
  const comeIn = (i: number): Promise<{ cookie: string; attemptId: string; took: number; status: number }> =>
    new Promise((resolve) => {
      const started = performance.now();
      const asked = request(
        `${origin}/api/in`,
        { method: 'POST', headers: { origin, 'content-type': 'application/json' } },
        (answer) => {
          let text = '';
          answer.setEncoding('utf8');
          answer.on('data', (chunk: string) => {
            text += chunk;
          });
          answer.on('end', () =>
            resolve({
              cookie: (answer.headers['set-cookie'] ?? []).map((one) => one.split(';')[0]).join('; '),
              attemptId: (JSON.parse(text || '{}') as { attemptId?: string }).attemptId ?? '',
              took: performance.now() - started,
              status: answer.statusCode ?? 0,
            }),
          );
        },
      );
      asked.end(JSON.stringify({ code, sittingId, name: `Device ${i}` }));
    });
  return { bench, origin, client, cookie, here, sittingId, lead, comeIn };
}

const close = () => {
  for (const one of streams.splice(0)) one.destroy();
};

/**
 * round.fanout: 300 devices in a led round; from the instructor's *open*, sent as a request, until 95 % of the devices have
 * the question. Baseline: the same bytes sent to 300 bare streams of the same server by a request.
 */
export async function roundFanout(): Promise<void> {
  const { bench, origin, client, lead, comeIn, sittingId } = await openRound();
  const came = [];
  for (let i = 0; i < devices; i += 20)
    came.push(...(await Promise.all(Array.from({ length: 20 }, (_, k) => comeIn(i + k)))));
  const inside = came.map(({ cookie }) => listen(origin, `/api/rounds/${sittingId}/live`, { cookie }));
  const bare = came.map(() => listen(origin, '/api/bare', { 'x-clock-token': clockToken }));
  await Promise.all([...inside, ...bare].map((one) => one.ready));
  /** @returns the milliseconds until 95 % of some streams have one more event */
  const spread = async (some: typeof inside, act: () => Promise<unknown>) => {
    const before = some.map((one) => one.events.length);
    const begun = performance.now();
    await act();
    await until(() => some.every((one, i) => one.events.length > (before[i] as number)));
    return percentile(
      some.map((one, i) => (one.events[before[i] as number]?.at ?? 0) - begun),
      0.95,
    );
  };
  const shown: number[] = [];
  const broadcast: number[] = [];
  for (let question = 0; question < times + 1; question++) {
    const open = await spread(inside, () => lead('open', question));
    const data = JSON.parse(inside[0]?.events.at(-1)?.data ?? 'null') as unknown;
    const alone = await spread(bare, () =>
      fetch(`${origin}/api/bare`, {
        method: 'POST',
        headers: { 'x-clock-token': clockToken, 'content-type': 'application/json' },
        body: JSON.stringify(data),
      }),
    );
    await spread(inside, () => lead('close', question));
    // The first of each is warm-up.
    if (question > 0) {
      shown.push(open);
      broadcast.push(alone);
    }
  }
  close();
  client.close();
  report({
    name: 'round.fanout',
    value: median(shown),
    unit: 'ms',
    baseline: median(broadcast),
    ratio: median(shown) / median(broadcast),
    target: 'at most 2',
    bytes: inside[0]?.events.at(-1)?.data.length,
    peakMemoryMB: Math.round(bench.peakMemory()),
  });
  await bench.stop();
}

/**
 * round.grid: 300 devices answer at once; from the last save acknowledged until the instructor's grid holds them all.
 * Baseline: the pause of the grid's stream, one second.
 */
export async function roundGrid(): Promise<void> {
  const { bench, origin, client, cookie, here, lead, comeIn, sittingId } = await openRound();
  const came = [];
  for (let i = 0; i < devices; i += 20)
    came.push(...(await Promise.all(Array.from({ length: 20 }, (_, k) => comeIn(i + k)))));
  const opened = [];
  for (const one of came) {
    const answer = await client.send(`/api/attempts/${one.attemptId}/open`, one.cookie, null);
    const { epoch } = JSON.parse(answer.text) as { epoch: number };
    opened.push({ ...one, epoch });
  }
  const grid = listen(origin, `${here}/live`, { cookie });
  await grid.ready;
  const pause = 1_000;
  const took: number[] = [];
  let failed = 0;
  for (let question = 0; question < times; question++) {
    await lead('open', question);
    const seen = await Promise.all(
      opened.map(async (one) => {
        const live = listen(origin, `/api/rounds/${sittingId}/live`, { cookie: one.cookie });
        await live.ready;
        return JSON.parse(live.events.at(-1)?.data ?? 'null') as {
          question: { slotId: string; view: { type: string; choices?: { key: string }[] } };
        };
      }),
    );
    close();
    const again = listen(origin, `${here}/live`, { cookie });
    await again.ready;
    await new Promise((resolve) => setTimeout(resolve, 2 * pause));
    const done = new Set<string>();
    let heard = again.events.length;
    const read = () => {
      for (; heard < again.events.length; heard++) {
        const news = JSON.parse(again.events[heard]?.data ?? '{}') as {
          people?: { attemptId: string; answeredNow: boolean | null }[];
        };
        for (const person of news.people ?? []) if (person.answeredNow) done.add(person.attemptId);
      }
      return done.size;
    };
    let last = 0;
    const saves = await Promise.all(
      opened.map(async (one, i) => {
        const { slotId, view } = seen[i]?.question ?? { slotId: '', view: { type: '' } };
        const value = view.choices ? { picked: view.choices[i % view.choices.length]?.key } : { text: String(i % 7) };
        const saved = await client.send(`/api/attempts/${one.attemptId}/save`, one.cookie, {
          slotId,
          epoch: one.epoch,
          sequence: question + 1,
          value,
          comeBack: false,
          vote: 1,
        });
        last = performance.now();
        return saved.status;
      }),
    );
    failed += saves.filter((status) => status !== 200).length;
    const acknowledged = last;
    await until(() => read() === devices || performance.now() > acknowledged + 20 * pause);
    took.push(performance.now() - acknowledged);
    await lead('close', question);
  }
  close();
  client.close();
  report({
    name: 'round.grid',
    value: median(took),
    unit: 'ms',
    baseline: pause,
    ratio: median(took) / pause,
    target: 'at most 1.5',
    worst: Math.round(Math.max(...took)),
    failed,
    peakMemoryMB: Math.round(bench.peakMemory()),
  });
  await bench.stop();
}

/**
 * round.join: 300 come in by a typed name within 60 s, from one address. value: the 95th percentile of one's coming in.
 * Baseline: the same of an empty handler, at the same rate in the same run.
 */
export async function roundJoin(): Promise<void> {
  const { bench, client, comeIn } = await openRound();
  const within = 60_000;
  const spread = <T>(act: (i: number) => Promise<T>): Promise<T[]> =>
    Promise.all(
      Array.from({ length: devices }, async (_, i) => {
        await new Promise((resolve) => setTimeout(resolve, (i / devices) * within));
        return act(i);
      }),
    );
  await client.send('/api/health', '', null);
  await comeIn(-1);
  const [came, empty] = await Promise.all([spread(comeIn), spread(() => client.send('/api/health', '', null))]);
  const failed = came.filter((one) => one.status !== 200 || one.attemptId === '').length;
  const value = percentile(
    came.map((one) => one.took),
    0.95,
  );
  const baseline = percentile(
    empty.map((one) => one.took),
    0.95,
  );
  client.close();
  report({
    name: 'round.join',
    value,
    unit: 'ms',
    baseline,
    ratio: value / baseline,
    failed,
    withinSeconds: within / 1_000,
    peakMemoryMB: Math.round(bench.peakMemory()),
  });
  await bench.stop();
}
