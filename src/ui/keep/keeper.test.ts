import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ok, type Result, refused } from '@/core/base/result';
import type { Store } from '../kit/browserStore';
import { Journal } from './journal';
import { Keeper, type KeepState, type Stored, type Told } from './keeper';

type Form = Record<string, string>;
type Fault = 'none' | 'request-lost' | 'answer-lost' | 'signed-out';

class MemoryStore implements Store {
  kept = new Map<string, string>();
  /** Whether it takes nothing more, or nothing at all may be asked of it. */
  broken: 'no' | 'full' | 'forbidden' = 'no';
  private ask() {
    if (this.broken === 'forbidden') throw new Error('forbidden');
  }
  keys = () => {
    this.ask();
    return [...this.kept.keys()];
  };
  getItem = (key: string) => {
    this.ask();
    return this.kept.get(key) ?? null;
  };
  setItem = (key: string, value: string) => {
    this.ask();
    if (this.broken === 'full') throw new Error('full');
    this.kept.set(key, value);
  };
  removeItem = (key: string) => {
    this.ask();
    this.kept.delete(key);
  };
}

/** A server that keeps one object by the number of its edit, and carries out once what has a name. */
class Server {
  stored: Stored<Form> = { edit: 1, value: {} };
  carriedOut = new Map<string, Result<{ edit: number }>>();
  fault: Fault = 'none';
  saves = 0;

  save(value: Form, edit: number, once: string): Result<{ edit: number }> {
    const before = this.carriedOut.get(once);
    if (before) return before;
    if (value.title === 'bad') return refused('bad-input', 'This title is taken.', 'title');
    if (edit !== this.stored.edit) return refused('conflict', 'Somebody else saved it.');
    this.stored = { edit: edit + 1, value };
    this.saves += 1;
    const answer = ok({ edit: edit + 1 });
    this.carriedOut.set(once, answer);
    return answer;
  }

  /** Somebody else saves. */
  changes(part: Form): void {
    this.stored = { edit: this.stored.edit + 1, value: { ...this.stored.value, ...part } };
  }
}

const key = new Uint8Array(32).fill(7);
const settled = () => new Promise<void>((resolve) => setImmediate(resolve));

/** A window of a person, with a clock that goes on when it is told to. */
class Desk {
  timers: { call: () => void; on: boolean }[] = [];
  state: KeepState = { kind: 'kept' };
  value: Form = {};
  told: Told[] = [];
  keeper: Keeper<Form>;
  broughtBack: boolean;
  static names = 0;

  constructor(
    readonly server: Server,
    readonly store: MemoryStore,
    { pause = 500 as number | null, opened = server.stored, userId = 'ada' } = {},
  ) {
    const isUp = () => {
      if (server.fault === 'request-lost') throw new Error('no network');
    };
    const answered = <A>(answer: Result<A>): Result<A> => {
      if (server.fault === 'answer-lost') throw new Error('no network');
      return server.fault === 'signed-out' ? refused('signed-out', 'You are signed out.') : answer;
    };
    this.keeper = new Keeper<Form>({
      object: 'exam/e1',
      title: 'The exam “Tides”',
      href: '/c/c1/exams/e1',
      stored: opened,
      send: async (value, edit, once) => {
        isUp();
        return answered(server.fault === 'signed-out' ? ok({ edit: 0 }) : server.save(value, edit, once));
      },
      fetch: async () => {
        isUp();
        return answered(ok(server.stored));
      },
      pause,
      later: (call) => {
        const timer = { call, on: true };
        this.timers.push(timer);
        return () => {
          timer.on = false;
        };
      },
      newOnce: () => `name-of-a-request-${++Desk.names}`,
      tell: (told) => this.told.push(structuredClone(told)),
      onChange: (value, state) => {
        this.value = value;
        this.state = state;
      },
    });
    this.broughtBack = this.keeper.begin(new Journal(store, { userId, key }, () => 1_000));
    this.value = this.keeper.now.value;
    this.state = this.keeper.now.state;
  }

  type(part: Form): void {
    this.keeper.change({ ...this.keeper.now.value, ...part });
  }

  /** Time passes: what waits goes off once. */
  async rests(): Promise<void> {
    for (const timer of this.timers.splice(0)) if (timer.on) timer.call();
    await settled();
  }
}

describe('keeping what is typed', () => {
  it('is kept once the pause is over, and says so only then', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.type({ title: 'Tides' });
    expect([desk.state.kind, desk.store.kept.size]).toEqual(['typed', 1]);
    await desk.rests();
    expect([desk.state.kind, desk.store.kept.size]).toEqual(['kept', 0]);
    expect(desk.server.stored).toEqual({ edit: 2, value: { title: 'Tides' } });
  });

  it('an answer lost after the server took it: sent again under its name, carried out once, and nobody else is blamed', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.server.fault = 'answer-lost';
    desk.type({ title: 'Tides' });
    await desk.rests();
    expect(desk.state).toEqual({ kind: 'waiting', why: 'no-connection' });
    desk.type({ title: 'Tides and streams' });
    desk.server.fault = 'none';
    await desk.rests();
    expect(desk.state.kind).toBe('kept');
    expect([desk.server.stored.value.title, desk.server.saves]).toEqual(['Tides and streams', 2]);
  });

  it('a window closed while its answer was lost: the next one finds out what became of it', async () => {
    const desk = new Desk(new Server(), new MemoryStore(), { pause: null });
    desk.server.fault = 'answer-lost';
    desk.type({ title: 'Tides' });
    await desk.keeper.save();
    desk.keeper.close();
    desk.server.fault = 'none';
    const next = new Desk(desk.server, desk.store, { pause: null });
    expect([next.broughtBack, next.keeper.isUnkept, desk.store.kept.size]).toEqual([false, false, 0]);
  });

  it('the lid closed without a network: brought back, and sent by itself', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.server.fault = 'request-lost';
    desk.type({ title: 'Tides', note: 'two sentences' });
    await desk.rests();
    desk.keeper.close();
    desk.server.fault = 'none';
    desk.server.changes({ grade: 'A' });
    const next = new Desk(desk.server, desk.store);
    expect([next.broughtBack, next.value.note]).toEqual([true, 'two sentences']);
    await next.rests();
    expect(desk.server.stored.value).toEqual({ title: 'Tides', note: 'two sentences', grade: 'A' });
    expect(desk.store.kept.size).toBe(0);
  });

  it('somebody else saved other places: joined without a word', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.type({ title: 'Tides' });
    desk.server.changes({ note: 'theirs' });
    await desk.rests();
    expect([desk.state.kind, desk.server.stored.value]).toEqual(['kept', { title: 'Tides', note: 'theirs' }]);
  });

  it('somebody else saved the same place: shown side by side, what is typed meanwhile is kept, and settled once', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.type({ title: 'Mine' });
    desk.server.changes({ title: 'Theirs' });
    await desk.rests();
    expect(desk.state).toMatchObject({ kind: 'clash', clashes: [{ path: ['title'], mine: 'Mine', theirs: 'Theirs' }] });
    desk.type({ note: 'meanwhile' });
    await desk.rests();
    expect(desk.server.stored.value).toEqual({ title: 'Theirs' });
    desk.keeper.settle({ ...desk.keeper.now.value, title: 'Both' });
    await settled();
    expect([desk.state.kind, desk.server.stored.value]).toEqual(['kept', { title: 'Both', note: 'meanwhile' }]);
  });

  it('refused: it says why, keeps what was typed, and is sent again once it was mended', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.type({ title: 'bad', note: 'kept' });
    await desk.rests();
    expect(desk.state).toMatchObject({ kind: 'refused', problems: [{ field: 'title' }] });
    expect(desk.store.kept.size).toBe(1);
    desk.type({ title: 'good' });
    await desk.rests();
    expect([desk.state.kind, desk.server.stored.value.note]).toEqual(['kept', 'kept']);
  });

  it('signed out while typing: waits, and goes when the session is back', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.server.fault = 'signed-out';
    desk.type({ title: 'Tides' });
    await desk.rests();
    expect(desk.state).toEqual({ kind: 'waiting', why: 'signed-out' });
    desk.server.fault = 'none';
    desk.keeper.hurry();
    await settled();
    expect([desk.state.kind, desk.server.stored.value]).toEqual(['kept', { title: 'Tides' }]);
  });

  it('a store that is full or forbidden: it goes on from memory', async () => {
    for (const broken of ['full', 'forbidden'] as const) {
      const store = new MemoryStore();
      store.broken = broken;
      const desk = new Desk(new Server(), store);
      desk.type({ title: 'Tides' });
      await desk.rests();
      expect([desk.state.kind, desk.server.stored.value]).toEqual(['kept', { title: 'Tides' }]);
    }
  });

  it('two windows of one person show the same, and neither blames the other', async () => {
    const server = new Server();
    const store = new MemoryStore();
    const [one, other] = [new Desk(server, store), new Desk(server, store)];
    one.type({ title: 'Tides' });
    for (const told of one.told.splice(0)) other.keeper.hear(told);
    expect(other.value).toEqual({ title: 'Tides' });
    other.type({ note: 'from the other' });
    for (const told of other.told.splice(0)) one.keeper.hear(told);
    await one.rests();
    await other.rests();
    for (const told of other.told.splice(0)) one.keeper.hear(told);
    expect([one.state.kind, other.state.kind, server.saves]).toEqual(['kept', 'kept', 1]);
    expect(server.stored.value).toEqual({ title: 'Tides', note: 'from the other' });
  });

  it('what is given up goes, here and in the journal', async () => {
    const desk = new Desk(new Server(), new MemoryStore(), { pause: null });
    desk.type({ title: 'Tides' });
    desk.keeper.giveUp();
    expect([desk.state.kind, desk.value, desk.store.kept.size]).toEqual(['kept', {}, 0]);
  });
});

const step = fc.oneof(
  { weight: 5, arbitrary: fc.record({ kind: fc.constant('type' as const), window: fc.nat(1), field: fc.nat(3) }) },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('rest' as const), window: fc.nat(1) }) },
  {
    weight: 3,
    arbitrary: fc.record({
      kind: fc.constant('fault' as const),
      fault: fc.constantFrom<Fault>('none', 'none', 'request-lost', 'answer-lost', 'signed-out'),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('other' as const), field: fc.nat(1) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('reload' as const), window: fc.nat(1) }) },
);

describe('what else is done to it', () => {
  it('takes its turn after what was typed, and what is typed meanwhile after it', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.type({ title: 'Tides' });
    const asked: number[] = [];
    const own = desk.keeper.inTurn(async (edit) => {
      asked.push(edit);
      desk.type({ note: 'meanwhile' });
      desk.server.stored = { edit: edit + 1, value: desk.server.stored.value };
      return ok({ edit: edit + 1 });
    });
    expect(await own).toEqual(ok({ edit: 3 }));
    expect(asked).toEqual([2]);
    await desk.rests();
    expect([desk.state.kind, desk.server.stored]).toEqual([
      'kept',
      { edit: 4, value: { title: 'Tides', note: 'meanwhile' } },
    ]);
  });

  it('is not done where what was typed could not be saved first', async () => {
    const desk = new Desk(new Server(), new MemoryStore());
    desk.server.fault = 'request-lost';
    desk.type({ title: 'Tides' });
    expect(await desk.keeper.inTurn(async (edit) => ok({ edit }))).toBeNull();
    expect(desk.state.kind).toBe('waiting');
  });
});

describe('keeping, whatever happens', () => {
  it('in the end the server has all that was typed, once, or somebody is asked about it', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 30 }), async (steps) => {
        const server = new Server();
        const store = new MemoryStore();
        const desks = [new Desk(server, store), new Desk(server, store)];
        const at = (n: number) => desks[n] as Desk;
        /** What was typed last into each place. */
        const typed: Form = {};
        let n = 0;
        /** What windows tell one another is there before they do anything. */
        const hears = () => {
          for (const [j, desk] of desks.entries()) for (const told of desk.told.splice(0)) at(1 - j).keeper.hear(told);
        };
        for (const one of steps) {
          hears();
          if (one.kind === 'type') {
            n += 1;
            // The two windows type into places of their own; somebody else saves into two of them.
            const field = `${'ab'[one.window]}${one.field}`;
            typed[field] = String(n);
            at(one.window).type({ [field]: String(n) });
          }
          if (one.kind === 'rest') await at(one.window).rests();
          if (one.kind === 'fault') server.fault = one.fault;
          if (one.kind === 'other') server.changes({ [`c${one.field}`]: `other ${++n}` });
          if (one.kind === 'reload') {
            at(one.window).keeper.close();
            desks[one.window] = new Desk(server, store);
          }
        }
        server.fault = 'none';
        for (let i = 0; i < 6; i++)
          for (const desk of desks) {
            hears();
            desk.keeper.hurry();
            await desk.rests();
          }
        for (const [field, value] of Object.entries(typed))
          expect([field, server.stored.value[field]]).toEqual([field, value]);
        for (const desk of desks) expect(desk.state.kind).toBe('kept');
        expect(store.kept.size).toBe(0);
      }),
      { numRuns: 500 },
    );
  });
});

describe('the journal', () => {
  const write = (store: MemoryStore, userId = 'ada', at = 1_000) => {
    const journal = new Journal(store, { userId, key }, () => at);
    journal.write('exam/e1', {
      title: 'The exam “Tides”',
      href: '/c/c1/exams/e1',
      base: { edit: 1, value: {} },
      value: { key: 'the right answer is B' },
      unanswered: null,
    });
    return journal;
  };

  it('can be read by whom it belongs to, and by nobody else at the machine', () => {
    const store = new MemoryStore();
    write(store);
    const plain = [...store.kept].join(' ');
    expect(plain).not.toContain('right answer');
    expect(plain).not.toContain('Tides');
    expect(new Journal(store, { userId: 'ben', key: new Uint8Array(32).fill(9) }, () => 1_000).list()).toEqual([]);
    expect(new Journal(store, { userId: 'ada', key }, () => 2_000).list()).toMatchObject([
      { object: 'exam/e1', href: '/c/c1/exams/e1', value: { key: 'the right answer is B' } },
    ]);
  });

  it('does not take an entry that was put under another name, or under another key', () => {
    const store = new MemoryStore();
    write(store);
    const [[name, locked] = ['', '']] = [...store.kept];
    store.kept.set(name.replace('e1', 'e2'), locked);
    const journal = new Journal(store, { userId: 'ada', key }, () => 2_000);
    expect(journal.read('exam/e2')).toBeNull();
    expect(journal.read('exam/e1')).not.toBeNull();
    expect(new Journal(store, { userId: 'ada', key: new Uint8Array(32) }, () => 2_000).read('exam/e1')).toBeNull();
  });

  it('drops what an earlier make kept without a lock, and what nobody came back for', () => {
    const store = new MemoryStore();
    store.kept.set('wuzzen-draft/new/written', '{"key":"B"}');
    store.kept.set('wuzzen.mark.s1', '{"points":"3"}');
    store.kept.set('wuzzen-kept/0/ada/exam/e1', 'x');
    store.kept.set('wuzzen-answers/a1/1', '[]');
    write(store);
    expect([...store.kept.keys()].sort()).toEqual(['wuzzen-answers/a1/1', 'wuzzen-kept/1/ada/exam/e1']);
    expect(new Journal(store, { userId: 'ada', key }, () => 61 * 86_400_000).list()).toEqual([]);
    expect(store.kept.size).toBe(1);
  });

  it('keeps a text of two million letters', () => {
    const store = new MemoryStore();
    const journal = new Journal(store, { userId: 'ada', key }, () => 1_000);
    const value = 'ü'.repeat(2_000_000);
    expect(
      journal.write('note', { title: 'n', href: '/', base: { edit: 1, value: '' }, value, unanswered: null }),
    ).toBe(true);
    expect(journal.read('note')?.value === value).toBe(true);
  });
});
