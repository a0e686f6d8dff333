import { describe, expect, it } from 'vitest';
import { AnswerKeeper, type KeeperState, type PendingAnswer, type SendOutcome } from './answerKeeper';
import { outcomeOf } from './requests';

/** A keeper with a server that answers as told, a store in memory, and time that passes only when the test says so. */
function bench(epoch = 1, kept: Map<string, string> = new Map(), hold = false) {
  const sent: PendingAnswer[] = [];
  const states: KeeperState[] = [];
  const asides: number[] = [];
  const timers: { call: () => void; pause: number }[] = [];
  let outcome: SendOutcome = 'saved';
  const clock = { now: 77 };
  const keeper = new AnswerKeeper({
    attemptId: 'a1',
    epoch,
    send: async (answer) => {
      sent.push(answer);
      return { outcome, said: outcome === 'saved' ? undefined : `it is ${outcome}` };
    },
    store: {
      keys: () => [...kept.keys()],
      getItem: (key) => kept.get(key) ?? null,
      setItem: (key, value) => void kept.set(key, value),
      removeItem: (key) => void kept.delete(key),
    },
    onState: (state) => states.push(state),
    onAside: () => asides.push(sent.length),
    later: (call, pause) => timers.push({ call, pause }),
    now: () => clock.now,
    hold,
  });
  return { keeper, sent, states, asides, timers, kept, clock, answerWith: (next: SendOutcome) => (outcome = next) };
}

describe('keeping answers', () => {
  it('says saved only once the server has confirmed everything', async () => {
    const { keeper, sent, states, kept } = bench();
    keeper.keep('s1', { text: 'a' }, false);
    keeper.keep('s2', { text: 'b' }, true);
    expect(states.at(-1)).toEqual({ kind: 'saving' });
    expect(kept.size).toBe(1);
    expect(await keeper.flush()).toBe(true);
    expect(sent.map(({ slotId, sequence, epoch }) => [slotId, sequence, epoch])).toEqual([
      ['s1', 1, 1],
      ['s2', 2, 1],
    ]);
    expect(states.at(-1)).toEqual({ kind: 'saved', at: 77 });
    expect(kept.size).toBe(0);
  });

  it('goes on sending after a hand-in with nothing left to send was held back', async () => {
    const { keeper, sent } = bench();
    expect(await keeper.flush()).toBe(true);
    keeper.keep('s1', { text: 'a' }, false);
    expect(await keeper.flush()).toBe(true);
    expect(sent).toHaveLength(1);
  });

  it('sends answers in the order in which they were given, also when one is given anew', async () => {
    const { keeper, sent } = bench();
    keeper.keep('s1', { text: 'a' }, false);
    keeper.keep('s2', { text: 'b' }, false);
    keeper.keep('s1', null, false);
    await keeper.flush();
    expect(sent.map(({ slotId, sequence }) => [slotId, sequence])).toEqual([
      ['s2', 2],
      ['s1', 3],
    ]);
  });

  it('says so when the server did not take an answer, until the next is taken', async () => {
    const { keeper, states, answerWith } = bench();
    answerWith('refused');
    keeper.keep('s1', { text: 'a' }, false);
    await keeper.flush();
    expect(states.at(-1)).toEqual({ kind: 'aside', said: 'it is refused' });
    answerWith('saved');
    keeper.keep('s1', { text: 'b' }, false);
    await keeper.flush();
    expect(states.at(-1)).toEqual({ kind: 'saved', at: 77 });
  });

  it('holds anonymous answers in the browser alone until they are handed in, also through a reload', async () => {
    const { keeper, sent, states, kept, timers } = bench(1, new Map(), true);
    keeper.keep('s1', { text: 'a' }, false);
    keeper.keep('s2', { text: 'b' }, false);
    expect([await keeper.flush(), sent.length, timers.length]).toEqual([true, 0, 0]);
    expect(states.at(-1)).toEqual({ kind: 'held' });
    const reloaded = bench(2, kept, true);
    expect(reloaded.keeper.recover().map(({ slotId }) => slotId)).toEqual(['s1', 's2']);
    expect(reloaded.keeper.held()).toEqual([
      { slotId: 's1', value: { text: 'a' } },
      { slotId: 's2', value: { text: 'b' } },
    ]);
    reloaded.keeper.handedIn();
    expect([kept.size, reloaded.sent.length]).toEqual([0, 0]);
  });

  it('sends only the newest of several answers to one question', async () => {
    const { keeper, sent } = bench();
    for (const text of ['a', 'ab', 'abc']) keeper.keep('s1', { text }, false);
    await keeper.flush();
    expect(sent).toMatchObject([{ value: { text: 'abc' }, sequence: 3 }]);
  });

  it('keeps answers while the server cannot be reached, and sends them when it can', async () => {
    const { keeper, states, kept, timers, sent, answerWith } = bench();
    answerWith('lost');
    keeper.keep('s1', { text: 'a' }, false);
    expect(await keeper.flush()).toBe(false);
    expect(states.at(-1)).toEqual({ kind: 'offline', waiting: 1 });
    expect(kept.get('wuzzen-answers/a1/1')).toContain('"text":"a"');
    keeper.keep('s2', { text: 'b' }, false);
    expect(states.at(-1)).toEqual({ kind: 'offline', waiting: 2 });
    expect(states.some((state) => state.kind === 'saved')).toBe(false);
    answerWith('saved');
    timers.at(-1)?.call();
    await keeper.flush();
    keeper.hurry();
    await Promise.resolve();
    expect(sent.length).toBeGreaterThan(1);
    expect(await keeper.flush()).toBe(true);
    expect(states.at(-1)).toEqual({ kind: 'saved', at: 77 });
  });

  it('waits longer from failure to failure, at most fifteen seconds', async () => {
    const { keeper, timers, answerWith } = bench();
    answerWith('lost');
    keeper.keep('s1', 1, false);
    for (let i = 0; i < 8; i++) {
      timers.at(-1)?.call();
      await new Promise((resolve) => setImmediate(resolve));
    }
    expect(timers.map((timer) => timer.pause)).toEqual([500, 1000, 2000, 4000, 8000, 15000, 15000, 15000, 15000]);
  });

  it('an answer given while the one before is on its way is sent too', async () => {
    const { keeper, sent, timers } = bench();
    keeper.keep('s1', 'first', false);
    const flying = keeper.flush();
    keeper.keep('s1', 'second', false);
    expect(await flying).toBe(false);
    timers.at(-1)?.call();
    await new Promise((resolve) => setImmediate(resolve));
    expect(sent.map((answer) => answer.value)).toEqual(['first', 'second']);
  });

  it('a flush waits for what is on its way, so that a hand-in never overtakes an answer', async () => {
    const { keeper, sent } = bench();
    keeper.keep('s1', 'first', false);
    const flying = keeper.flush();
    keeper.keep('s2', 'second', false);
    expect(await keeper.flush()).toBe(true);
    expect(sent.map((answer) => answer.value)).toEqual(['first', 'second']);
    await flying;
  });

  it('of an answer that is kept aside tells its page, says why, and goes on', async () => {
    for (const outcome of ['superseded', 'late', 'refused'] as const) {
      const { keeper, states, answerWith, sent, asides } = bench();
      answerWith(outcome);
      keeper.keep('s1', 1, false);
      expect(await keeper.flush()).toBe(true);
      expect(states.at(-1)).toEqual({ kind: 'aside', said: `it is ${outcome}` });
      expect(asides).toEqual([1]);
      answerWith('saved');
      keeper.keep('s1', 2, false);
      await keeper.flush();
      expect([sent.length, states.at(-1)?.kind]).toEqual([2, 'saved']);
    }
  });

  it('without a connection keeps what was answered half a minute before beside the change, and sends both where the newer is not taken', async () => {
    const late = bench();
    late.answerWith('lost');
    late.keeper.keep('s1', 'in time', false);
    await late.keeper.flush();
    late.clock.now += 29_999;
    late.keeper.keep('s1', 'still in time', false);
    late.clock.now += 30_000;
    late.keeper.keep('s1', 'too late', false);
    late.answerWith('late');
    late.sent.length = 0;
    expect(await late.keeper.flush()).toBe(true);
    expect(late.sent.map(({ value, givenAt }) => [value, givenAt])).toEqual([
      ['too late', 77 + 59_999],
      ['still in time', 77 + 29_999],
    ]);
    expect(late.kept.size).toBe(0);

    const taken = bench();
    taken.answerWith('lost');
    taken.keeper.keep('s1', 'before', false);
    await taken.keeper.flush();
    taken.clock.now += 60_000;
    taken.keeper.keep('s1', 'after', false);
    taken.answerWith('saved');
    taken.sent.length = 0;
    expect(await taken.keeper.flush()).toBe(true);
    expect(taken.sent.map(({ value }) => value)).toEqual(['after']);
  });
});

describe('after a reload', () => {
  const left = async () => {
    const { keeper, kept, answerWith } = bench(1);
    answerWith('lost');
    keeper.keep('s1', { text: 'unsent' }, true);
    await keeper.flush();
    return kept;
  };

  it('what this browser could not send is sent as its own', async () => {
    const { keeper, sent } = bench(2, await left());
    expect(keeper.recover()).toMatchObject([{ slotId: 's1', value: { text: 'unsent' }, comeBack: true }]);
    await keeper.flush();
    expect(sent).toMatchObject([{ epoch: 2, value: { text: 'unsent' } }]);
  });

  it('but not over what another browser has written meanwhile', async () => {
    const { keeper, sent } = bench(3, await left());
    expect(keeper.recover()).toEqual([]);
    expect(await keeper.flush()).toBe(true);
    expect(sent).toMatchObject([{ epoch: 1, value: { text: 'unsent' } }]);
  });

  it('and what is sent with its old stamp stays in the browser until the server has it', async () => {
    const { keeper, sent, kept, answerWith } = bench(3, await left());
    answerWith('lost');
    keeper.recover();
    expect(await keeper.flush()).toBe(false);
    expect(kept.get('wuzzen-answers/a1/3')).toContain('"epoch":1');
    answerWith('superseded');
    expect(await keeper.flush()).toBe(true);
    expect([sent.length, kept.size]).toEqual([2, 0]);
  });

  it('a broken store is no reason to stop', () => {
    const { keeper } = bench(2, new Map([['wuzzen-answers/a1/1', '{nonsense']]));
    expect(keeper.recover()).toEqual([]);
  });
});

it('a status of the server has one meaning', () => {
  expect([undefined, 500, 503, 429, 200, 401, 409, 410, 400, 404].map(outcomeOf)).toEqual([
    'lost',
    'lost',
    'lost',
    'lost',
    'saved',
    'signed-out',
    'superseded',
    'late',
    'refused',
    'signed-out',
  ]);
});
