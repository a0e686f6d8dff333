import { describe, expect, it, vi } from 'vitest';
import { bodyLimits, readBody, receiveBody } from './bodies';

const megabytes = (count: number) => ({ length: String(count * 1_000_000), isChunked: false });
const as = (name: string | null) => () => Promise.resolve(name);

describe('a body', () => {
  it('that is small is received from everybody, and nobody is looked up for it', async () => {
    const who = vi.fn();
    for (const length of [undefined, '0', String(bodyLimits.small)])
      expect(typeof (await receiveBody({ length, isChunked: false }, who))).toBe('function');
    expect(who).not.toHaveBeenCalled();
  });

  it('that is large is received only from somebody signed in, whatever it says of its length', async () => {
    expect(await receiveBody(megabytes(1), as(null))).toBe('signed-out');
    expect(await receiveBody(megabytes(65), as('a'))).toBe('too-large');
    expect(await receiveBody({ length: 'much', isChunked: false }, as('a'))).toBe('too-large');
  });

  it('that tells no length is received a few at a time, also from who is not signed in', async () => {
    const untold = { length: undefined, isChunked: true };
    const free: unknown[] = [];
    for (let i = 0; i < 4; i++) free.push(await receiveBody(untold, as(null)));
    expect(await receiveBody(untold, as(null))).toBe('busy');
    free.push(await receiveBody(untold, as('a')));
    expect(free.map((one) => typeof one)).toEqual(Array(5).fill('function'));
    for (const one of free) (one as () => void)();
  });

  it('has its place until it is over: few from one person, no more at once than there is memory for', async () => {
    const free: (() => void)[] = [];
    const take = async (name: string, size = 60) => {
      const place = await receiveBody(megabytes(size), as(name));
      if (typeof place === 'function') free.push(place);
      return place;
    };
    await take('a', 1);
    await take('a', 1);
    expect(await take('a', 1)).toBe('busy');
    await take('b');
    await take('c');
    await take('d');
    expect(await take('e', 11)).toBe('busy');
    expect(typeof (await take('e', 5))).toBe('function');
    for (const one of [...free, ...free]) one();
    for (const name of ['a', 'b', 'c']) expect(typeof (await take(name))).toBe('function');
    for (const one of free) one();
  });

  it('from who sends one after the other waits a little from the seventh on, and nobody else does', async () => {
    vi.useFakeTimers({ now: 1_000_000 });
    const begun = Date.now();
    const waited: number[] = [];
    const one = async (name: string) => {
      const place = receiveBody(megabytes(1), as(name));
      let done = false;
      void place.then(() => {
        done = true;
      });
      for (let i = 0; i < 5 && !done; i++) await Promise.resolve();
      while (!done) await vi.advanceTimersByTimeAsync(10);
      ((await place) as () => void)();
      waited.push(Date.now() - begun);
    };
    for (let i = 0; i < 9; i++) await one('hurried');
    expect(waited).toEqual([0, 0, 0, 0, 0, 0, 300, 600, 900]);
    const before = Date.now();
    await one('calm');
    expect(Date.now()).toBe(before);
    vi.useRealTimers();
  });

  it('is not read further than it may be long', async () => {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        sent += 1;
        controller.enqueue(new Uint8Array(1_000));
      },
    });
    expect(await readBody(endless, 10_000)).toBeNull();
    expect(sent).toBeLessThan(20);
    expect(await readBody(new Response('four').body as ReadableStream<Uint8Array>, 4)).toEqual(Buffer.from('four'));
    expect(await readBody(null, 4)).toEqual(Buffer.alloc(0));
  });
});
