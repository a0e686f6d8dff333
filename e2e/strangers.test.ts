import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Thing } from '../src/core/base/id';
import { databaseFile } from '../src/db/client';
import type { Actor } from '../src/server/house/context';
import { School } from '../src/server/testing/school';
import { fillWorld, type World } from '../src/server/testing/world';
import { post, type Served, serve } from './serve';

/** Every address there is, as its folder names it: pages are looked at, routes are sent to as well. */
const app = join(import.meta.dirname, '../src/app');
const files = readdirSync(app, { recursive: true, encoding: 'utf8' }).map((path) => `/${path}`);
const addressesOf = (file: string) =>
  files.filter((path) => path.endsWith(`/${file}`)).map((path) => path.slice(0, -file.length - 1) || '/');
const pages = addressesOf('page.tsx');
const routes = addressesOf('route.ts');
const streams = routes.filter((path) => path.endsWith('/live'));

let folder: string;
let school: School;
let served: Served;
let home: World;
let foreign: World;
type Who = 'nobody' | 'instructor' | 'marker' | 'guest' | 'student' | 'teacher elsewhere' | 'student elsewhere';
const cookies = {} as Record<Who, string>;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'wuzzen-strangers-'));
  school = new School(0, databaseFile(folder));
  home = fillWorld(school, 'HOMEWORD');
  foreign = fillWorld(school.elsewhereAsSchool(), 'ELSEWHERE');
  const people: Record<Exclude<Who, 'nobody'>, Actor> = {
    instructor: school.teacher,
    marker: home.marker,
    guest: school.add('Gina Guest', 'guest'),
    student: home.student,
    'teacher elsewhere': school.elsewhere.teacher,
    'student elsewhere': foreign.student,
  };
  served = await serve(folder, 'test');
  for (const [who, { userId }] of Object.entries(people)) {
    const answer = await post(served.origin, '/api/demo/sign-in', { userId });
    cookies[who as Who] = answer.headers
      .getSetCookie()
      .map((one) => one.split(';')[0])
      .join('; ');
  }
  cookies.nobody = '';
}, 120_000);
afterAll(async () => {
  await served?.stop();
  school?.db.$client.close();
  rmSync(folder, { recursive: true, force: true });
});

/** What a part of an address names; what is no thing of a course stands for itself. */
const given: Record<string, string> = {
  hash: '0'.repeat(64),
  act: 'open',
  token: 'no-such-token-anywhere',
  secret: 'no-such-secret-anywhere',
};
type Ids = (thing: Thing, name: string) => string;
const of =
  (world: World): Ids =>
  (thing) =>
    world.ids[thing];
const filled = (address: string, ids: Ids): string =>
  address.replace(/\[(\w+)\]/g, (_, name: string) =>
    encodeURIComponent(given[name] ?? ids(name.replace(/Id$/, '') as Thing, name)),
  );
const namesIn = (address: string) => [...address.matchAll(/\[(\w+)\]/g)].map((one) => one[1] as string);

type Answer = { at: string; who: Who; status: number; said: string };

/** Asks, and reads the answer: of a stream what it says first. */
async function ask(who: Who, at: string, method = 'GET', body?: string): Promise<Answer> {
  const stop = new AbortController();
  const answer = await fetch(served.origin + at, {
    method,
    headers: { cookie: cookies[who], ...(method === 'GET' ? {} : { origin: served.origin }) },
    redirect: 'manual',
    signal: stop.signal,
    ...(body === undefined ? {} : { body }),
  });
  let said: string;
  if (answer.headers.get('content-type')?.startsWith('text/event-stream')) {
    const first = await answer.body?.getReader().read();
    said = new TextDecoder().decode(first?.value);
    stop.abort();
  } else said = await answer.text();
  return { at: `${method} ${at}`, who, status: answer.status, said };
}

/** A few at a time, as they come. */
async function all(asked: readonly (() => Promise<Answer>)[]): Promise<Answer[]> {
  const answers: Answer[] = [];
  const waiting = [...asked];
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) answers.push(await next());
  };
  await Promise.all(Array.from({ length: 6 }, lane));
  return answers;
}

/** Every row but those of sessions and of what was refused. */
function rows(): string[] {
  const tables = school.db.$client
    .prepare("select name from sqlite_master where type = 'table' and name not like 'sqlite_%' and name <> 'session'")
    .pluck()
    .all() as string[];
  return tables.flatMap((table) =>
    school.db.$client
      .prepare(`select * from "${table}"`)
      .all()
      .map((row) => `${table} ${JSON.stringify(row)}`)
      .filter((row) => !row.includes('"action":"refused.')),
  );
}

const short = ({ who, at, status }: Answer) => `${who}: ${at} ${status}`;
const withIds = [...pages, ...routes].filter((path) => path.includes('['));
/** A page that one may not see sends to what one may, or does not exist; a route says so. */
const refusing = (status: number) => status >= 400 || status === 307;

describe('every address there is', () => {
  it('is known: pages and routes are told by their folders', () => {
    expect(pages.length).toBeGreaterThan(50);
    expect(routes.length).toBeGreaterThan(25);
  });

  it('answers everybody without failing, and nobody with what is not theirs', async () => {
    const wrong: string[] = [];
    const others = { student: 'HOMEWORD Ben', guest: /HOMEWORD (Ada|Ben)/, marker: /HOMEWORD Ben/ } as const;
    const own = await all(
      (Object.keys(cookies) as Who[]).flatMap((who) =>
        [...pages, ...routes].map((path) => () => ask(who, filled(path, of(home)))),
      ),
    );
    for (const answer of own) {
      // In a test folder whoever is there may be entered as.
      if (answer.at === 'GET /sign-in') continue;
      if (answer.status >= 500) wrong.push(`${short(answer)} failed`);
      if (answer.said.includes('ELSEWHERE') && !answer.who.endsWith('elsewhere')) wrong.push(`${short(answer)} shows`);
      const hidden = others[answer.who as keyof typeof others];
      if (hidden && answer.said.search(hidden) >= 0) wrong.push(`${short(answer)} shows another's name`);
      const isStranger = answer.who === 'nobody' || answer.who.endsWith('elsewhere');
      if (isStranger && answer.said.includes('HOMEWORD')) wrong.push(`${short(answer)} shows`);
    }
    expect(wrong).toEqual([]);
    // What is asked for is there: an instructor sees nearly all of it.
    const seen = own.filter(({ who, said }) => who === 'instructor' && said.includes('HOMEWORD'));
    expect(seen.length).toBeGreaterThan(40);
  }, 240_000);

  it('refuses whose ids are foreign, mixed, unknown or no ids at all, and writes nothing', async () => {
    const before = rows();
    const mixed = withIds.flatMap((path) =>
      namesIn(path)
        .filter((name) => !(name in given))
        .map((changed) => filled(path, (thing, name) => (name === changed ? foreign : home).ids[thing])),
    );
    const unknown = withIds.map((path) => filled(path, () => 'aaaaaaaaaaaaaaaaaaaaa'));
    const odd = ['../../etc/passwd', "' or 1=1 --", '\u0000', 'x'.repeat(2_000), '%00', '[object Object]', '🙂'];
    const malformed = withIds.map((path, i) => filled(path, () => odd[i % odd.length] as string));
    const strange: Who[] = ['nobody', 'teacher elsewhere', 'student elsewhere'];
    const bodies = ['{}', '[', 'null', '[1,2,3]', '{"slotId":{"$ne":1}}'];
    const answers = await all([
      ...(['instructor', 'student'] as const).flatMap((who) =>
        [...mixed, ...unknown, ...malformed].map((at) => () => ask(who, at)),
      ),
      ...strange.flatMap((who) => withIds.map((path) => () => ask(who, filled(path, of(home))))),
      // Sent to: strangers with what is ours, and we with what is theirs.
      ...strange.flatMap((who) =>
        routes
          .filter((path) => path.includes('['))
          .map((path, i) => () => ask(who, filled(path, of(home)), 'POST', bodies[i % bodies.length])),
      ),
      ...(['instructor', 'student'] as const).flatMap((who) =>
        routes
          .filter((path) => path.includes('['))
          .map((path, i) => () => ask(who, filled(path, of(foreign)), 'POST', bodies[i % bodies.length])),
      ),
    ]);
    expect(answers.length).toBeGreaterThan(900);
    const open = /^\w+ \/(invitation|join|set-up)\//;
    const wrong = answers
      .filter(({ status, said, at, who }) => {
        const shows = said.includes('ELSEWHERE') ? !who.endsWith('elsewhere') : false;
        const showsHome = said.includes('HOMEWORD') && (who === 'nobody' || who.endsWith('elsewhere'));
        return status >= 500 || shows || showsHome || (!refusing(status) && !open.test(at));
      })
      .map(short);
    expect(wrong).toEqual([]);
    const after = new Set(rows());
    expect(before.filter((row) => !after.has(row))).toEqual([]);
    expect([...after].filter((row) => !before.includes(row))).toEqual([]);
  }, 240_000);
});

describe('who holds on', () => {
  /** Somebody beside it all who is answered at once. */
  const beat = async () => expect((await fetch(`${served.origin}/api/health`)).ok).toBe(true);

  it('a body that never comes to an end holds its own line and nobody else’s', async () => {
    const { hostname, port } = new URL(served.origin);
    const lines = Array.from({ length: 150 }, (_, i) => {
      const line = connect(Number(port), hostname);
      line.on('error', () => undefined);
      const large = i % 2 ? '2000000' : '200';
      line.write(
        `POST /api/attempts/${home.writingAttempt}/save HTTP/1.1\r\nHost: ${hostname}:${port}\r\nOrigin: ${served.origin}\r\nCookie: ${cookies.student}\r\nContent-Length: ${large}\r\n\r\n{`,
      );
      return line;
    });
    for (let i = 0; i < 40; i++) {
      for (const line of lines) if (line.writable) line.write(' ');
      await beat();
      expect((await ask('instructor', `/c/${school.courseId}/people`)).status).toBe(200);
    }
    for (const line of lines) line.destroy();
  }, 60_000);

  it('of streams each has a few, and others are served', async () => {
    const stops: AbortController[] = [];
    const over: Promise<unknown>[] = [];
    const inAll = 40;
    for (let i = 0; i < inAll; i++) {
      const stop = new AbortController();
      stops.push(stop);
      const at = filled(streams[i % streams.length] as string, of(home));
      const cookie = cookies[/^\/(c|wall)\//.test(at) ? 'instructor' : 'student'];
      const stream = await fetch(served.origin + at, { headers: { cookie }, signal: stop.signal });
      expect(stream.status).toBe(200);
      over.push(stream.text().catch(() => 'broken off'));
      await beat();
    }
    // Another one ends the oldest: four about each thing stay.
    const ended = await Promise.all(over.slice(0, inAll - 4 * streams.length));
    expect(ended).not.toContain('broken off');
    for (const stop of stops) stop.abort();
  }, 60_000);
});
