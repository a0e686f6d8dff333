import { expect, it } from 'vitest';
import { minute, second } from '../base/time';
import { contactLostAfter, roomState } from './roomState';

const attempt = (more: object = {}) => ({
  phase: 'running' as const,
  answered: 3,
  lastContact: 100 * minute,
  startedAt: 90 * minute,
  ...more,
});

it('a student has not come, has opened it, writes, has lost contact, or has ended', () => {
  const at = (facts: Parameters<typeof roomState>[0], now = 100 * minute) => roomState(facts, now);
  expect(at({ excused: false, attempt: null })).toBe('not-come');
  expect(at({ excused: true, attempt: null })).toBe('excused');
  expect(at({ excused: false, attempt: attempt({ answered: 0 }) })).toBe('nothing-answered');
  expect(at({ excused: false, attempt: attempt() })).toBe('writing');
  expect(at({ excused: false, attempt: attempt() }, 100 * minute + contactLostAfter)).toBe('writing');
  expect(at({ excused: false, attempt: attempt() }, 100 * minute + contactLostAfter + second)).toBe('lost-contact');
  expect(at({ excused: false, attempt: attempt({ lastContact: null, startedAt: 100 * minute }) })).toBe('writing');
  expect(at({ excused: true, attempt: attempt({ phase: 'handed-in' }) })).toBe('handed-in');
  expect(at({ excused: false, attempt: attempt({ phase: 'voided' }) })).toBe('voided');
});
