import { minute, second } from '@/core/base/time';
import type { Feature } from './story';
import { deadlineOf, graceMinutes } from './world';

type Phase = 'running' | 'handed-in' | 'not-handed-in' | 'voided';
type By = 'student' | 'page' | 'clock' | 'invigilator';

/** What arrives late by no more than this is still taken. */
const allowance = 3 * second;

/**
 * What is so in a story, reckoned in the plainest way and apart from the product: how the attempt stands, when it ended and
 * by whom, and how long it runs. Times count from the beginning of the school's clock.
 */
export class Truth {
  phase: Phase = 'running';
  before: Phase | null = null;
  endedAt: number | null = null;
  by: By | null = null;
  added = 0;
  reopenedAt = Number.NEGATIVE_INFINITY;

  constructor(private rules: readonly Feature[]) {}

  get deadline(): number | null {
    return deadlineOf(this.rules, this.added);
  }

  get hasGrace(): boolean {
    return this.rules.includes('grace');
  }

  /** Until when a student may hand it in; null where nothing ends it. */
  get handInUntil(): number | null {
    const { deadline } = this;
    return deadline === null ? null : deadline + (this.hasGrace ? graceMinutes * minute : 0);
  }

  /** The clock has gone on to a moment: whatever has run out by then has ended, at its deadline. */
  sweep(now: number): void {
    const until = this.handInUntil;
    if (this.phase !== 'running' || until === null || now <= until + allowance) return;
    this.phase = this.hasGrace ? 'not-handed-in' : 'handed-in';
    this.by = 'clock';
    this.endedAt = this.deadline;
  }

  /** Whether a hand-in that reaches the server is to be carried out, apart from what is owed. */
  takesHandIn(now: number, { byClock, pressedAt }: { byClock: boolean; pressedAt: number | null }): boolean {
    if (this.phase !== 'running') return false;
    if (byClock && (this.deadline === null || now < this.deadline)) return false;
    return pressedAt === null || pressedAt >= this.reopenedAt;
  }

  handIn(now: number, by: By): void {
    this.phase = 'handed-in';
    this.by = by;
    this.endedAt = Math.min(now, this.deadline ?? now);
  }

  /** An invigilator counts it as handed in. */
  handInFor(now: number): void {
    const at = this.endedAt ?? Math.min(now, this.deadline ?? now);
    this.phase = 'handed-in';
    this.by = 'invigilator';
    this.endedAt = at;
  }

  reopen(now: number, minutes: number): void {
    this.added += now - (this.endedAt ?? now) + minutes * minute;
    this.phase = 'running';
    this.endedAt = null;
    this.by = null;
    this.reopenedAt = now;
  }

  void(now: number): void {
    this.before = this.phase;
    this.phase = 'voided';
    this.endedAt ??= now;
  }

  restore(now: number): void {
    const to = this.before ?? 'running';
    if (to === 'running') {
      this.added += now - (this.endedAt ?? now);
      this.endedAt = null;
    }
    this.phase = to;
    this.before = null;
  }
}
