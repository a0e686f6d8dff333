import type { Store } from '../kit/browserStore';

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

/**
 * What became of a save. `lost`: the server did not answer. `late`, `superseded` and `refused`: it was not taken and is
 * kept aside there. `signed-out`: nobody is signed in here, or somebody else.
 */
export type SendOutcome = 'saved' | 'lost' | 'superseded' | 'late' | 'signed-out' | 'elsewhere' | 'refused';

/** What the server said to a save, with its words where it did not take it. */
export type SendReply = { outcome: SendOutcome; said?: string | undefined };

export type KeeperState =
  | { kind: 'saved'; at: number | null }
  | { kind: 'saving' }
  /** Answers stay in the browser until the hand-in. */
  | { kind: 'held' }
  /** The server did not take an answer, for a reason that it says, and keeps it aside. */
  | { kind: 'aside'; said: string }
  | { kind: 'offline'; waiting: number }
  /** The server takes answers from other networks only, or not from this person any more: it says which. */
  | { kind: 'elsewhere'; waiting: number; said: string }
  | { kind: 'signed-out'; waiting: number };

type Setting = {
  attemptId: string;
  epoch: number;
  send: (answer: PendingAnswer) => Promise<SendReply>;
  store: Store | null;
  onState: (state: KeeperState) => void;
  /** Called when the server kept an answer aside: how the attempt stands has to be asked. */
  onAside: () => void;
  /** Calls back after so many milliseconds; given so that tests need not wait. */
  later: (call: () => void, milliseconds: number) => void;
  now: () => number;
  /** Whether answers are not sent before the hand-in, which brings them all. */
  hold?: boolean;
};

const pauseWhileTyping = 500;
const longestPause = 15_000;
/** Without a connection, what was answered so long before it was changed is kept beside the change, each with its time. */
const keptApart = 30_000;
/** So many answers to one question are kept beside one another. */
const mostBeside = 20;

/** What everything begins with that a browser keeps of answers that the server has not confirmed. */
export const answersPrefix = 'wuzzen-answers/';

/**
 * Where a window keeps the answers of an attempt that the server has not confirmed: windows of one browser write beside
 * one another, and never over what another has.
 */
const answersKey = (attemptId: string, epoch: number): string => `${answersPrefix}${attemptId}/${epoch}`;

/** Where windows of this browser have kept answers of an attempt. */
export const answersKeys = (store: Pick<Store, 'keys'> | null, attemptId: string): string[] =>
  (store?.keys() ?? []).filter((key) => key.startsWith(`${answersPrefix}${attemptId}/`));

/**
 * Keeps every answer until the server has confirmed it: in memory, in the browser's store in case the page is closed or
 * crashes, and on its way again whenever the connection returns. It says "saved" only when nothing is left.
 */
export class AnswerKeeper {
  /** By question and writer epoch, the oldest first; the question that was answered last stands last. */
  private pending = new Map<string, PendingAnswer[]>();
  private sequence = 0;
  private flying: Promise<boolean> | null = null;
  private scheduled = false;
  private failures = 0;
  /** Whether its page is gone, and the browser's store another page's by now. */
  private gone = false;
  private said: string | null = null;

  constructor(private setting: Setting) {}

  /** Takes an answer as it is given. */
  keep(
    slotId: string,
    value: unknown,
    comeBack: boolean,
    pause = pauseWhileTyping,
    givenAt = this.setting.now(),
  ): void {
    if (this.gone) return;
    this.sequence += 1;
    const { epoch } = this.setting;
    const before = this.pending.get(`${slotId}/${epoch}`) ?? [];
    const last = before.at(-1);
    // Offline, an earlier answer stays beside the change: which of the two came in time, the server decides.
    const isApart = last && this.failures > 0 && givenAt - last.givenAt >= keptApart;
    const kept = isApart ? before.slice(-(mostBeside - 1)) : before.slice(0, -1);
    this.put([...kept, { slotId, value, comeBack, sequence: this.sequence, epoch, givenAt }]);
    this.persist();
    this.said = null;
    if (this.setting.hold) {
      this.setting.onState({ kind: 'held' });
      return;
    }
    this.setting.onState(this.failures ? { kind: 'offline', waiting: this.waiting } : { kind: 'saving' });
    this.schedule(pause);
  }

  /** Put last again: what is sent arrives in the order in which it was given. */
  private put(answers: PendingAnswer[]): void {
    const [first] = answers;
    if (!first) return;
    const key = `${first.slotId}/${first.epoch}`;
    this.pending.delete(key);
    this.pending.set(key, answers);
  }

  /** How many questions have an answer that waits. */
  private get waiting(): number {
    return this.pending.size;
  }

  /**
   * Takes up what an earlier page of this browser could not send. If no other browser has opened the attempt in between,
   * it is sent as this page's own; otherwise with its old stamp, so that the server sets it aside for the instructor
   * instead of letting it overwrite what was written elsewhere.
   *
   * @returns the answers that are shown again
   */
  recover(): PendingAnswer[] {
    const { epoch, hold, store, attemptId } = this.setting;
    const keys = answersKeys(store, attemptId).filter((key) => key !== answersKey(attemptId, epoch));
    const kept = keys
      .flatMap((key) => readKept(store, key))
      .sort((a, b) => a.epoch - b.epoch || a.sequence - b.sequence);
    const own: PendingAnswer[] = [];
    for (const answer of kept) {
      if (!hold && answer.epoch !== epoch - 1) {
        this.put([...(this.pending.get(`${answer.slotId}/${answer.epoch}`) ?? []), answer]);
        continue;
      }
      this.sequence += 1;
      const mine = { ...answer, epoch, sequence: this.sequence };
      this.put([...(hold ? [] : (this.pending.get(`${answer.slotId}/${epoch}`) ?? [])), mine]);
      own.push(mine);
    }
    this.persist();
    for (const key of keys) store?.removeItem(key);
    if (hold && own.length) this.setting.onState({ kind: 'held' });
    if (!hold && this.pending.size) {
      this.setting.onState({ kind: 'saving' });
      this.schedule(0);
    }
    return own;
  }

  /** Sends all that waits now; what is on its way already is waited for. @returns whether nothing is left */
  async flush(): Promise<boolean> {
    if (this.setting.hold) return true;
    if (this.flying) {
      await this.flying;
      if (this.pending.size === 0 || this.gone) return this.pending.size === 0;
    }
    // Cleared from outside: with nothing to send, `send` is over before this assignment.
    this.flying ??= this.send().finally(() => {
      this.flying = null;
    });
    return this.flying;
  }

  private async send(): Promise<boolean> {
    try {
      for (const key of [...this.pending.keys()]) {
        // The newest first: where it is taken, the ones before it are nothing but its past.
        for (const answer of [...(this.pending.get(key) ?? [])].reverse()) {
          if (!this.pending.get(key)?.includes(answer)) continue;
          const reply = await this.setting.send(answer).catch((): SendReply => ({ outcome: 'lost' }));
          if (!this.settle(key, answer, reply)) return false;
        }
      }
      if (this.gone) return this.pending.size === 0;
      if (this.pending.size > 0) this.schedule(0);
      else
        this.setting.onState(
          this.said === null ? { kind: 'saved', at: this.setting.now() } : { kind: 'aside', said: this.said },
        );
      return this.pending.size === 0;
    } finally {
      this.persist();
    }
  }

  /** What is held for the hand-in. */
  held(): { slotId: string; value: unknown }[] {
    if (!this.setting.hold) return [];
    return [...this.pending.values()].flatMap((all) => all.slice(-1)).map(({ slotId, value }) => ({ slotId, value }));
  }

  /** What was held until the hand-in went with it. */
  handedIn(): void {
    if (!this.setting.hold) return;
    this.pending.clear();
    this.persist();
  }

  /** Takes answers no more, and does nothing more: its page is gone. What waits stays in the browser's store. */
  stop(): void {
    this.gone = true;
  }

  /** The connection is said to be back: no need to wait out the pause. */
  hurry(): void {
    this.failures = 0;
    if (this.pending.size > 0 && !this.setting.hold) void this.flush();
  }

  /** @returns whether the next answer may be sent */
  private settle(key: string, answer: PendingAnswer, { outcome, said = '' }: SendReply): boolean {
    if (outcome === 'saved' || outcome === 'refused' || outcome === 'superseded' || outcome === 'late') {
      this.failures = 0;
      if (outcome !== 'saved') {
        this.said = said;
        this.setting.onAside();
      }
      const left = (this.pending.get(key) ?? []).filter((one) =>
        outcome === 'saved' ? one.sequence > answer.sequence : one.sequence !== answer.sequence,
      );
      if (left.length) this.pending.set(key, left);
      else this.pending.delete(key);
      this.persist();
      return true;
    }
    this.failures += 1;
    if (!this.gone)
      this.setting.onState(
        outcome === 'elsewhere'
          ? { kind: outcome, waiting: this.waiting, said }
          : { kind: outcome === 'signed-out' ? outcome : 'offline', waiting: this.waiting },
      );
    this.schedule(Math.min(longestPause, 1_000 * 2 ** Math.min(this.failures - 1, 6)));
    return false;
  }

  private schedule(pause: number): void {
    if (this.scheduled || this.gone) return;
    this.scheduled = true;
    this.setting.later(() => {
      this.scheduled = false;
      if (!this.gone) void this.flush();
    }, pause);
  }

  private persist(): void {
    const { store, attemptId, epoch } = this.setting;
    const key = answersKey(attemptId, epoch);
    if (this.gone) return;
    try {
      if (this.pending.size === 0) store?.removeItem(key);
      else store?.setItem(key, JSON.stringify([...this.pending.values()].flat()));
    } catch {
      // A full or forbidden store: the answers stay in memory and go on being sent.
    }
  }
}

/** What a window has kept that the server has not confirmed. */
export function readKept(store: Pick<Store, 'getItem'> | null, key: string): PendingAnswer[] {
  try {
    const kept: unknown = JSON.parse(store?.getItem(key) ?? '[]');
    return Array.isArray(kept)
      ? kept.filter((one) => typeof one?.slotId === 'string' && typeof one.epoch === 'number')
      : [];
  } catch {
    return [];
  }
}
