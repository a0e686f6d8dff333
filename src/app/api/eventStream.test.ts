import { describe, expect, it, vi } from 'vitest';
import { eventStream } from './eventStream';

const asked = () => {
  const leaving = new AbortController();
  return { leaving, request: new Request('http://localhost/', { signal: leaving.signal }) };
};

describe('a stream of events', () => {
  it('of one person about one thing is one of four: another one ends the oldest, and nobody else’s', async () => {
    const stops = Array.from({ length: 5 }, () => vi.fn());
    const other = vi.fn();
    eventStream(asked().request, 'b room', () => other);
    const streams = stops.map((stop) => eventStream(asked().request, 'a room', () => stop));
    expect(stops.map((stop) => stop.mock.calls.length)).toEqual([1, 0, 0, 0, 0]);
    expect(other).not.toHaveBeenCalled();
    // The one that was ended is closed for its browser too.
    expect(await streams[0]?.text()).toBe('retry: 2000\n\n');
  });

  it('makes place when its browser goes, and is ended from within once', async () => {
    const visits = Array.from({ length: 6 }, asked);
    const stops = visits.map(({ request, leaving }) => {
      const stop = vi.fn();
      eventStream(request, 'c room', () => stop);
      leaving.abort();
      return stop;
    });
    expect(stops.map((stop) => stop.mock.calls.length)).toEqual(Array(6).fill(1));
    const stop = vi.fn();
    const stream = eventStream(asked().request, 'c room', (send, end) => {
      send({ last: true });
      end();
      return stop;
    });
    expect(await stream.text()).toContain('data: {"last":true}');
    expect(stop).toHaveBeenCalledTimes(1);
  });
});
