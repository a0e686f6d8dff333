import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launchBrowser, pageAs } from '../../e2e/browser';
import { type Served, serve, signIn } from '../../e2e/serve';
import { mainViews, type View } from '../../e2e/views';
import { type Db, databaseFile, openDatabase } from '../../src/db/client';
import { sitting } from '../../src/db/schema';
import { demoPassword } from '../../src/server/people/demoPeople';
import { enlarge, large } from './largeSchool';
import { median, report } from './measure';
import { ensureBuilt } from './server';

type Seen = {
  name: string;
  /** Milliseconds from the request to the end of the answer, the median of seven. */
  server: number;
  statements: number;
  /** How often the statement that ran most often ran. */
  most: [source: string, times: number];
  /** Kilobytes: of the document, and of scripts as they were sent. */
  document: number;
  script: number;
  /** Tasks of the browser over 50 ms: how many, and the longest in ms. */
  longTasks: number;
  longest: number;
};

const rounds = 7;
const countings = 3;

/** Statements with how often each ran, the most frequent first. */
type Statements = [source: string, times: number][];
const sumOf = (statements: Statements) => statements.reduce((sum, [, times]) => sum + times, 0);

async function timed(url: string, cookie: string): Promise<{ took: number; bytes: number }> {
  const begun = performance.now();
  const answer = await fetch(url, { headers: { cookie }, redirect: 'manual' });
  const bytes = (await answer.arrayBuffer()).byteLength;
  if (answer.status !== 200) throw new Error(`${url} answered ${answer.status}`);
  return { took: performance.now() - begun, bytes };
}

/**
 * Looks at one page: with a bare client for the server's time and statements, with a browser for the rest.
 *
 * @param bare takes the times of a bare page, asked for in turn with this one
 */
async function see(
  served: Served,
  view: View,
  cookie: string,
  bare: number[],
  inBrowser: InBrowser | null,
): Promise<Seen> {
  const url = served.origin + view.path;
  await timed(url, cookie);
  const counts: Statements[] = [];
  let bytes = 0;
  for (let i = 0; i < countings; i++) {
    await fetch(`${served.origin}/--statements`);
    ({ bytes } = await timed(url, cookie));
    const counted = (await (await fetch(`${served.origin}/--statements`)).json()) as Statements;
    counts.push(counted.filter(([source]) => !/^(begin|commit|pragma)/i.test(source)));
  }
  // The house's own sweeps run beside the requests, now and then: the fewest are the page's.
  const [statements = []] = counts.sort((a, b) => sumOf(a) - sumOf(b));
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    bare.push((await timed(`${served.origin}/bare`, '')).took);
    times.push((await timed(url, cookie)).took);
  }
  return {
    name: view.name,
    server: median(times),
    statements: sumOf(statements),
    most: statements[0] ?? ['', 0],
    document: bytes / 1024,
    ...(inBrowser ? await inBrowser(view, cookie) : { script: 0, longTasks: 0, longest: 0 }),
  };
}

type InBrowser = (view: View, cookie: string) => Promise<Pick<Seen, 'script' | 'longTasks' | 'longest'>>;

async function browserFor(served: Served): Promise<{ look: InBrowser; close: () => Promise<void> }> {
  const browser = await launchBrowser();
  return {
    close: () => browser.close(),
    look: async (view, cookie) => {
      const page = await pageAs(browser, served.origin, cookie || null, view.size);
      await page.evaluateOnNewDocument(() => {
        const tasks: number[] = [];
        Object.assign(globalThis, { longTasks: tasks });
        new PerformanceObserver((list) => {
          for (const one of list.getEntries()) tasks.push(one.duration);
        }).observe({ type: 'longtask', buffered: true });
      });
      // A live page keeps its stream open for good.
      await page.goto(served.origin + view.path, { waitUntil: 'networkidle2' });
      if (view.ready) await page.waitForSelector(view.ready);
      const found = await page.evaluate(() => {
        const { longTasks } = globalThis as unknown as { longTasks: number[] };
        const scripts = performance.getEntriesByType('resource') as PerformanceResourceTiming[];
        return {
          script: scripts.filter((one) => one.name.includes('.js')).reduce((sum, one) => sum + one.encodedBodySize, 0),
          longTasks: longTasks.length,
          longest: Math.max(0, ...longTasks),
        };
      });
      await page.browserContext().close();
      return { ...found, script: found.script / 1024 };
    },
  };
}

async function seeAll(folder: string, each: boolean, label: string): Promise<{ bare: number; seen: Seen[] }> {
  process.env.NODE_ARGS = '--import ./scripts/bench/countStatements.mjs';
  const served = await serve(folder, 'test');
  const db = openDatabase(databaseFile(folder));
  const views = mainViews(db);
  const cookies = new Map<string | null, string>([[null, '']]);
  for (const who of new Set(views.map((view) => view.who)))
    if (who) cookies.set(who, await signIn(served.origin, who, demoPassword));
  const browser = each ? await browserFor(served) : null;
  const bare: number[] = [];
  const seen: Seen[] = [];
  for (const view of views)
    seen.push(await see(served, view, cookies.get(view.who) ?? '', bare, browser?.look ?? null));
  await browser?.close();
  await served.stop();
  db.$client.close();
  if (each) print(label, seen);
  return { bare: median(bare), seen };
}

function print(label: string, seen: Seen[]): void {
  console.log(
    `\n${label}\npage | server ms | statements | most often | document kB | script kB | long tasks | longest ms`,
  );
  for (const one of [...seen].sort((a, b) => b.server - a.server)) {
    const often = one.most[1] > 3 ? `${one.most[1]} × ${one.most[0].slice(0, 60)}` : one.most[1];
    const numbers = [one.document, one.script].map((value) => value.toFixed(0)).join(' | ');
    console.log(
      `${one.name} | ${one.server.toFixed(1)} | ${one.statements} | ${often} | ${numbers} | ${one.longTasks} | ${one.longest.toFixed(0)}`,
    );
  }
}

/**
 * pages.slowest: server time of the slowest page of the app over 5,000 questions and 500 students, everybody's attempts
 * included. Baseline: a bare page of the same build. `--each` prints every page, over the demo and over the large
 * school, with its statements, its size, its scripts and its long tasks. A statement that runs more often over the
 * large school than over the demo runs once for each row.
 */
export async function pagesSlowest(each = process.argv.includes('--each')): Promise<void> {
  ensureBuilt();
  const folder = mkdtempSync(join(tmpdir(), 'wuzzen-pages-'));
  const loaded = spawnSync('npx', ['tsx', 'demo/main.ts'], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, WUZZEN_DATA: folder, WUZZEN_KIND: 'test', NODE_ENV: 'production' },
  });
  if (loaded.status !== 0) throw new Error('The demo could not be loaded.');
  const small = each ? await seeAll(folder, each, 'The demo') : null;
  const db: Db = openDatabase(databaseFile(folder));
  enlarge(db, db.select().from(sitting).get()?.courseId ?? '', Date.now());
  db.$client.close();
  const { bare, seen } = await seeAll(folder, each, `${large.questions} questions, ${large.students} students`);
  const [slowest] = [...seen].sort((a, b) => b.server - a.server);
  if (!slowest) throw new Error('There is no page.');
  const growing = seen.filter(
    (one) => small && one.statements > (small.seen.find((other) => other.name === one.name)?.statements ?? 0) + 2,
  );
  report({
    name: 'pages.slowest',
    value: slowest.server,
    unit: 'ms of the server',
    baseline: bare,
    ratio: slowest.server / bare,
    page: slowest.name,
    ...(small ? { growing: growing.map((one) => one.name) } : {}),
  });
  rmSync(folder, { recursive: true, force: true });
}
