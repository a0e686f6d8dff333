// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { hour, minute } from '@/core/base/time';
import type { ClockState, OwnTimes } from '@/core/sitting/myClock';
import { MyClockLine } from './MyClockLine';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: vi.fn() }) }));
vi.mock('./useServerNow', () => ({ useServerNow: (now: number) => now }));

const now = Date.UTC(2026, 10, 30, 12, 0);
const times: OwnTimes = {
  opens: null,
  lastStart: null,
  due: null,
  closes: now + 6 * hour,
  limit: 40 * minute,
  extraTime: false,
  fullTime: false,
  grace: null,
};
/** What stands there for somebody whose browser stands in this zone. */
const shownIn = (own: string, state: ClockState) => {
  vi.spyOn(Intl.DateTimeFormat.prototype, 'resolvedOptions').mockReturnValue({
    ...new Intl.DateTimeFormat().resolvedOptions(),
    timeZone: own,
  });
  render(<p data-testid="clock">{<MyClockLine times={times} state={state} zone="Europe/Oslo" now={now} />}</p>);
  return screen.getByTestId('clock').textContent;
};

afterEach(() => {
  vi.restoreAllMocks();
  cleanup();
});

describe('the sentence of a student’s times', () => {
  it('is said once where the own clock shows the same, also in a zone of another name', () => {
    expect(shownIn('Europe/Berlin', { kind: 'may-start' })).toBe(
      'Ends 19:00. If you start now you have 40 min, until 13:40. Times of Europe/Oslo.',
    );
  });

  it('is said whole by the own clock where that shows another time: every time in it, not one of them', () => {
    expect(shownIn('Asia/Tokyo', { kind: 'running', deadline: now + 38 * minute, handInUntil: null })).toBe(
      ' You have until 13:38: 38 min left. Times of Europe/Oslo.By your own clock:  You have until 21:38: 38 min left.',
    );
    cleanup();
    expect(shownIn('Asia/Tokyo', { kind: 'may-start' })).toContain(
      'By your own clock: Ends Tue 1 Dec 2026, 03:00. If you start now you have 40 min, until 21:40.',
    );
  });

  it('asks nobody to read the times of what is over twice', () => {
    expect(shownIn('Asia/Tokyo', { kind: 'over' })).not.toContain('By your own clock');
  });
});
