import type { RoomState } from '@/core/attempt/roomState';

/** What a state is called in the table, and in the line of counts above it. */
export const stateSaid: Record<
  RoomState,
  { one: string; many: string; ink: 'now' | 'waits' | 'wrong' | 'done' | 'plain' }
> = {
  'lost-contact': { one: 'lost contact', many: 'lost contact', ink: 'wrong' },
  'nothing-answered': { one: 'nothing answered yet', many: 'nothing answered yet', ink: 'waits' },
  writing: { one: 'writing', many: 'writing', ink: 'now' },
  'not-come': { one: 'has not come', many: 'have not come', ink: 'waits' },
  'handed-in': { one: 'handed in', many: 'handed in', ink: 'done' },
  'not-handed-in': { one: 'not handed in in time', many: 'not handed in in time', ink: 'wrong' },
  voided: { one: 'voided', many: 'voided', ink: 'plain' },
  excused: { one: 'excused', many: 'excused', ink: 'plain' },
};

/** How long ago, roughly. @example agoSaid(70_000) // '1 min ago' */
export function agoSaid(ago: number): string {
  const seconds = Math.max(0, Math.floor(ago / 1000));
  if (seconds < 30) return 'now';
  if (seconds < 90) return `${seconds} s ago`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min ago`;
  return `${Math.round(seconds / 3600)} h ago`;
}
