/** An answer on its way to the server. */
export type PendingAnswer = {
  slotId: string;
  value: unknown;
  comeBack: boolean;
  sequence: number;
  epoch: number;
  /** When it was given, by this browser's idea of the server's clock. */
  givenAt: number;
};

/** What the server said to a save. `lost` means that it did not answer. */
export type SendOutcome = 'saved' | 'lost' | 'superseded' | 'ended' | 'signed-out' | 'elsewhere' | 'refused';

export type KeeperState =
  | { kind: 'saved'; at: number | null }
  | { kind: 'saving' }
  /** Answers stay in the browser until the hand-in. */
  | { kind: 'held' }
  /** The server did not take an answer: it broke a rule of its question. */
  | { kind: 'refused' }
  | { kind: 'offline'; waiting: number }
  /** The server takes answers from other networks only. */
  | { kind: 'elsewhere'; waiting: number }
  | { kind: 'superseded' }
  | { kind: 'ended' }
  | { kind: 'signed-out'; waiting: number };

type Store = {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
};

type Setting = {
  attemptId: string;
  epoch: number;
  send: (answer: PendingAnswer) => Promise<SendOutcome>;
  store: Store | null;
  onState: (state: KeeperState) => void;
  /** Calls back after so many milliseconds; given so that tests need not wait. */
  later: (call: () => void, milliseconds: number) => void;
  now: () => number;
  /** Whether answers are not sent before the hand-in, which brings them all. */
  hold?: boolean;
};

const pauseWhileTyping = 500;
const longestPause = 15_000;

/**
 * Keeps every answer until the server has confirmed it: in memory, in the browser's store in case the page is closed or
 * crashes, and on its way again whenever the connection returns. It says "saved" only when nothing is left.
 */
export class AnswerKeeper {
  private pending = new Map<string, PendingAnswer>();
  private sequence = 0;
  private flying: Promise<boolean> | null = null;
  private scheduled = false;
  private failures = 0;
  private stopped = false;
  /** Said by the server of an answer that it kept aside: what else waits is still sent, so that all of it is kept. */
  private over: 'superseded' | 'ended' | null = null;
  private refused = false;

  constructor(private setting: Setting) {}

  /** Takes an answer as it is given. */
  keep(
    slotId: string,
    value: unknown,
    comeBack: boolean,
    pause = pauseWhileTyping,
    givenAt = this.setting.now(),
  ): void {
    if (this.stopped) return;
    this.sequence += 1;
    // Put last again: what is sent arrives in the order in which it was given.
    this.pending.delete(slotId);
    this.pending.set(slotId, {
      slotId,
      value,
      comeBack,
      sequence: this.sequence,
      epoch: this.setting.epoch,
      givenAt,
    });
    this.persist();
    this.refused = false;
    if (this.setting.hold) {
      this.setting.onState({ kind: 'held' });
      return;
    }
    this.setting.onState(this.failures ? { kind: 'offline', waiting: this.pending.size } : { kind: 'saving' });
    this.schedule(pause);
  }

  /**
   * Takes up what an earlier page of this browser could not send. If no other browser has opened the attempt in between,
   * it is sent as this page's own; otherwise with its old stamp, so that the server sets it aside for the instructor
   * instead of letting it overwrite what was written elsewhere.
   *
   * @returns the answers that are shown again
   */
  recover(): PendingAnswer[] {
    const kept = readKept(this.setting.store, this.key);
    if (this.setting.hold) {
      for (const answer of kept) this.keep(answer.slotId, answer.value, answer.comeBack);
      return kept;
    }
    const own = kept.filter((answer) => answer.epoch === this.setting.epoch - 1);
    for (const answer of kept) if (!own.includes(answer)) void this.setting.send(answer).catch(() => 'lost');
    for (const answer of own) this.keep(answer.slotId, answer.value, answer.comeBack, 0, answer.givenAt);
    if (own.length === 0) this.persist();
    return own;
  }

  /** Sends all that waits now; what is on its way already is waited for. @returns whether nothing is left */
  async flush(): Promise<boolean> {
    if (this.setting.hold) return true;
    if (this.flying) {
      await this.flying;
      if (this.pending.size === 0 || this.stopped) return this.pending.size === 0;
    }
    // Cleared from outside: with nothing to send, `send` is over before this assignment.
    this.flying ??= this.send().finally(() => {
      this.flying = null;
    });
    return this.flying;
  }

  private async send(): Promise<boolean> {
    try {
      for (const answer of [...this.pending.values()]) {
        const outcome = await this.setting.send(answer).catch((): SendOutcome => 'lost');
        if (!this.settle(answer, outcome)) return false;
      }
      if (this.pending.size > 0) this.schedule(0);
      else if (this.over) {
        this.stopped = true;
        this.setting.onState({ kind: this.over });
      } else if (!this.stopped)
        this.setting.onState(this.refused ? { kind: 'refused' } : { kind: 'saved', at: this.setting.now() });
      return this.pending.size === 0;
    } finally {
      this.persist();
    }
  }

  /** What is held for the hand-in. */
  held(): { slotId: string; value: unknown }[] {
    return [...this.pending.values()].map(({ slotId, value }) => ({ slotId, value }));
  }

  /** Forgets everything: it has been handed in. */
  forget(): void {
    this.stopped = true;
    this.pending.clear();
    this.persist();
  }

  /** The connection is said to be back: no need to wait out the pause. */
  hurry(): void {
    this.failures = 0;
    if (this.pending.size > 0 && !this.setting.hold) void this.flush();
  }

  /** @returns whether the next answer may be sent */
  private settle(answer: PendingAnswer, outcome: SendOutcome): boolean {
    if (outcome === 'saved' || outcome === 'refused' || outcome === 'superseded' || outcome === 'ended') {
      this.failures = 0;
      if (outcome === 'superseded' || outcome === 'ended') this.over = outcome;
      if (outcome === 'refused') this.refused = true;
      if (this.pending.get(answer.slotId)?.sequence === answer.sequence) this.pending.delete(answer.slotId);
      return true;
    }
    this.failures += 1;
    const kind = outcome === 'signed-out' || outcome === 'elsewhere' ? outcome : 'offline';
    this.setting.onState({ kind, waiting: this.pending.size });
    this.schedule(Math.min(longestPause, 1_000 * 2 ** Math.min(this.failures - 1, 6)));
    return false;
  }

  private schedule(pause: number): void {
    if (this.scheduled) return;
    this.scheduled = true;
    this.setting.later(() => {
      this.scheduled = false;
      void this.flush();
    }, pause);
  }

  private get key(): string {
    return `wuzzen-answers/${this.setting.attemptId}`;
  }

  private persist(): void {
    const { store } = this.setting;
    try {
      if (this.pending.size === 0) store?.removeItem(this.key);
      else store?.setItem(this.key, JSON.stringify([...this.pending.values()]));
    } catch {
      // A full or forbidden store: the answers stay in memory and go on being sent.
    }
  }
}

function readKept(store: Store | null, key: string): PendingAnswer[] {
  try {
    const kept: unknown = JSON.parse(store?.getItem(key) ?? '[]');
    return Array.isArray(kept)
      ? kept.filter((one) => typeof one?.slotId === 'string' && typeof one.epoch === 'number')
      : [];
  } catch {
    return [];
  }
}
