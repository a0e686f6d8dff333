import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { databaseFile, openDatabase } from '@/db/client';
import { migrateDatabase } from '@/db/migrate';
import { offerSetUp, setUp, setUpIsOpen } from '../people/setUp';
import { must, refusal } from '../testing/school';
import { keepToOneself, lockDataFolder } from './dataFolder';
import { claimFolder, folderKind, installationSecret, keepOwnSecret, moveClock, serverNow } from './installation';
import { paced } from './limitGuesses';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'wuzzen-folder-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const opened = () => {
  const db = openDatabase(databaseFile(folder));
  migrateDatabase(db, folder);
  return db;
};

describe('a door that is flooded', () => {
  it('lets a class through at once, then one at a time, and is shut for nobody', () => {
    const door = paced(600, 500);
    for (let i = 0; i < 600; i++) expect(door('room', 0)).toBe(0);
    expect(door('room', 0)).toBe(500);
    expect(door('room', 499)).toBe(1);
    expect(door('room', 500)).toBe(0);
    expect(door('room', 600)).toBeGreaterThan(0);
    expect(door('elsewhere', 600)).toBe(0);
    for (let i = 0; i < 600; i++) expect(door('room', 600 + 300_000)).toBe(0);
  });
});

describe('a data folder', () => {
  const secret = 'a secret of 32 letters, kept here';

  it('is locked by a living process only', () => {
    const unlock = lockDataFolder(folder);
    unlock();
    writeFileSync(join(folder, 'server.pid'), '1');
    expect(() => lockDataFolder(folder)).toThrow(/in use by process 1/);
    writeFileSync(join(folder, 'server.pid'), '999999999');
    lockDataFolder(folder)();
    expect(existsSync(join(folder, 'server.pid'))).toBe(false);
  });

  it('is opened by nobody else of the machine, whatever it was before', () => {
    chmodSync(folder, 0o755);
    lockDataFolder(folder)();
    expect(statSync(folder).mode & 0o777).toBe(0o700);
    const before = process.umask();
    try {
      keepToOneself();
      writeFileSync(join(folder, 'kept'), 'x');
    } finally {
      process.umask(before);
    }
    expect(statSync(join(folder, 'kept')).mode & 0o777).toBe(0o600);
  });

  it('keeps the kind it was created as, and only a demo or test lets its clock be moved', () => {
    const db = opened();
    claimFolder(db, 'production');
    claimFolder(db, 'demo');
    expect(folderKind(db)).toBe('production');
    expect(moveClock(db, 5)).toBe(false);
    keepOwnSecret(db, secret);
    expect(() => installationSecret(db)).toThrow(/WUZZEN_SECRET/);
    db.$client.close();
  });

  it('is not signed for by a secret that can be guessed', () => {
    const db = opened();
    claimFolder(db, 'test');
    keepOwnSecret(db, 'x');
    expect(() => installationSecret(db)).toThrow(/too short/);
    db.$client.close();
  });

  it('of a test has a movable clock and a secret of its own', () => {
    const db = opened();
    claimFolder(db, 'test');
    keepOwnSecret(db, secret);
    expect(installationSecret(db)).toBe(secret);
    keepOwnSecret(db, 'another');
    expect(installationSecret(db)).toBe(secret);
    const before = serverNow();
    expect(moveClock(db, 3_600_000)).toBe(true);
    expect(serverNow() - before).toBeGreaterThanOrEqual(3_600_000);
    expect(moveClock(db, 0)).toBe(true);
    db.$client.close();
  });
});

describe('migrations', () => {
  it('are applied once, with every commit flushed and foreign keys held', () => {
    const db = opened();
    migrateDatabase(db, folder);
    expect(readdirSync(folder).filter((name) => name.startsWith('before-migration'))).toEqual([]);
    expect(db.$client.pragma('synchronous', { simple: true })).toBe(2);
    expect(db.$client.pragma('journal_mode', { simple: true })).toBe('wal');
    expect(db.$client.pragma('foreign_keys', { simple: true })).toBe(1);
    db.$client.close();
  });

  it('give marks their typed column: what a rule wrote as a reason, and no reason that a person typed', () => {
    const db = openDatabase(':memory:');
    const [first, second] = readdirSync('src/db/migrations')
      .filter((name) => name.endsWith('.sql'))
      .sort();
    const run = (name = '') => {
      for (const statement of readFileSync(join('src/db/migrations', name), 'utf8').split('--> statement-breakpoint'))
        db.$client.exec(statement);
    };
    db.$client.pragma('foreign_keys = OFF');
    run(first);
    const mark = db.$client.prepare(
      'insert into mark (id, slot_id, response_revision, version_id, kind, points, reason, batch, at) values (?, ?, 1, ?, ?, 0, ?, ?, 0)',
    );
    mark.run(1, 's', 'v', 'automatic', 'not chosen', null);
    mark.run(2, 's', 'v', 'adjusted', 'not chosen', null);
    mark.run(3, 's', 'v', 'automatic', 'everyone earns its points', 'r');
    mark.run(4, 's', 'v', 'adjusted', 'everyone earns its points', null);
    mark.run(5, 's', 'v', 'automatic', '', null);
    db.$client.exec(
      "insert into remark (id, course_id, question_id, version_id, policy, reason, by, at) values ('r', 'c', 'q', 'v', 'everyone', 'Misprint', 'u', 0)",
    );
    run(second);
    expect(db.$client.prepare('select id, unobserved, reason from mark order by id').raw().all()).toEqual([
      [1, 'not-chosen', ''],
      [2, null, 'not chosen'],
      [3, 'everyone-earns', 'Misprint'],
      [4, null, 'everyone earns its points'],
      [5, null, ''],
    ]);
    db.$client.close();
  });

  it('keep people, whose children stay: without the emails that were made up, and the first instructor keeps the school', () => {
    const db = openDatabase(':memory:');
    const names = readdirSync('src/db/migrations')
      .filter((name) => name.endsWith('.sql'))
      .sort();
    const run = (name: string) => {
      for (const statement of readFileSync(join('src/db/migrations', name), 'utf8').split('--> statement-breakpoint'))
        db.$client.exec(statement);
    };
    db.$client.pragma('foreign_keys = OFF');
    for (const name of names.slice(0, 3)) run(name);
    const person = db.$client.prepare(
      'insert into user (id, name, email, created_at, updated_at) values (?, ?, ?, 1, 2)',
    );
    person.run('s', 'Ada', 'ada@school.example');
    person.run('l', 'Lin', 'abc@by-link.invalid');
    person.run('t', 'Tove', 'tove@school.example');
    person.run('u', 'Una', 'una@school.example');
    db.$client.exec("insert into course (id, name, time_zone, created_at) values ('c', 'C', 'UTC', 0)");
    const member = db.$client.prepare(
      "insert into membership (id, course_id, user_id, role, added_at) values (?, 'c', ?, ?, ?)",
    );
    member.run('2', 'u', 'instructor', 20);
    member.run('1', 't', 'instructor', 10);
    member.run('3', 's', 'student', 5);
    db.$client.exec("insert into invitation (token_hash, user_id, expires_at) values ('h', 's', 9)");
    for (const name of names.slice(3, 4)) run(name);
    expect(db.$client.prepare('select * from user order by id').all()).toMatchObject([
      { id: 'l', name: 'Lin', last_name: '', email: null, sign_in_name: null, keeps_school: 0 },
      { id: 's', name: 'Ada', email: 'ada@school.example', keeps_school: 0, created_at: 1, updated_at: 2 },
      { id: 't', keeps_school: 1 },
      { id: 'u', keeps_school: 0 },
    ]);
    expect(db.$client.prepare('select count(*) from membership').pluck().get()).toBe(3);
    expect(db.$client.prepare('select token_hash, offer_id from invitation').raw().all()).toEqual([['h', null]]);
    expect(db.$client.pragma('foreign_key_check')).toEqual([]);
    db.$client.close();
  });

  it('refuse a folder written before the first of them, and say what to do', () => {
    const db = opened();
    db.$client.exec("update __drizzle_migrations set hash = 'earlier'");
    expect(() => migrateDatabase(db, folder)).toThrow(/before the first release.*begin it anew/is);
    db.$client.close();
  });

  it('refuse a folder written by a newer version', () => {
    const db = opened();
    db.$client.exec("insert into __drizzle_migrations (hash, created_at) values ('later', 9999999999999)");
    expect(() => migrateDatabase(db, folder)).toThrow(/newer version/);
    db.$client.close();
  });
});

describe('an empty installation', () => {
  const entered = {
    name: 'Ada',
    email: 'ada@school.example',
    password: 'long enough words',
    course: 'Seamanship',
    timeZone: 'Europe/Oslo',
  };

  it('is set up once, by whoever holds the address', async () => {
    const db = opened();
    claimFolder(db, 'test');
    keepOwnSecret(db, 'a secret');
    const token = offerSetUp(db) ?? '';
    expect(setUpIsOpen(db, token)).toBe(true);
    expect(setUpIsOpen(db, `${token}x`)).toBe(false);
    const bad = await setUp(db, token, { ...entered, timeZone: 'Nowhere', password: 'short' }, 0);
    expect(bad.ok ? [] : bad.problems.map((problem) => problem.field)).toEqual(['password', 'timeZone']);
    must(await setUp(db, token, entered, 0));
    expect(refusal(await setUp(db, token, entered, 0))).toBe('not-found');
    expect(offerSetUp(db)).toBeNull();
    db.$client.close();
  });
});
