import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { ok } from '@/core/base/result';
import { day, hour } from '@/core/base/time';
import type { Desk as DeskToday } from '@/server/desk/desk';
import { Desk } from './Desk';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

const now = Date.UTC(2026, 2, 2, 9);
const empty: DeskToday = {
  role: 'instructor',
  timeZone: 'UTC',
  now,
  open: [],
  closingSoon: [],
  decisions: [],
  replies: [],
  coming: [],
  drafts: [],
  marking: [],
  looks: [],
  readyToPublish: [],
  changedSince: [],
  unsaved: [],
  notes: 0,
};
const rest = { base: '/c/1', giveUpDraft: async () => ok(null) };
const words = (desk: DeskToday) =>
  renderToStaticMarkup(<Desk {...rest} desk={desk} />)
    .replace(/<[^>]+>/g, '|')
    .replace(/\|+/g, '|');
const sitting = { id: 's', title: 'Quiz', phase: 'open' as const, opens: now, students: 28, running: 1, handedIn: 9 };

describe('the desk', () => {
  it('on the first day says the way in the order of the work', () => {
    const markup = renderToStaticMarkup(<Desk {...rest} desk={empty} />);
    expect([...markup.matchAll(/href="\/c\/1\/(\w+)"/g)].map((match) => match[1])).toEqual([
      'done',
      'people',
      'banks',
      'exams',
      'sittings',
    ]);
  });

  it('tells a marker and a guest what will stand there for them', () => {
    expect(words({ ...empty, role: 'marker' })).toContain('assigned to you for marking');
    expect(words({ ...empty, role: 'guest' })).toContain('without names');
  });

  it('counts in words, each number apart from its word', () => {
    const said = words({ ...empty, open: [{ ...sitting, closes: now + 7 * day + hour }], notes: 1 });
    expect(said).toContain('|1|');
    expect(said).toContain('is writing');
    expect(said).toContain('closes in 7 days 1 h');
    expect(said).toContain('thing');
    expect(words({ ...empty, open: [{ ...sitting, closes: null, running: 2 }] })).toContain('are writing');
  });

  it('says what waits for a decision, and leads to the room', () => {
    const decisions = [
      { sittingId: 's', title: 'Quiz', count: 3, says: '2 answers kept aside, of 1 student; 1 incident' },
    ];
    expect(words({ ...empty, decisions })).toContain('decisions|Quiz|2 answers kept aside, of 1 student; 1 incident|');
    expect(renderToStaticMarkup(<Desk {...rest} desk={{ ...empty, decisions }} />)).toContain('/c/1/sittings/s/room');
  });
});
