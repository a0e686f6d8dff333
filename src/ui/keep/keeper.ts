import { type Clash, isAlike, merged } from '@/core/base/merge';
import type { Problem, Result } from '@/core/base/result';
import type { Journal } from './journal';

/** What stands on the server: the value, and the number of the edit that made it. */
export type Stored<T> = { edit: number; value: T };

/**
 * How what is typed stands. `kept`: the server has all of it. `typed`: it is written down here and waits for a pause, or for
 * its person to save. `waiting`: the server could not be reached, or nobody is signed in; it is tried again by itself.
 * `refused`: the server says what has to be mended first. `clash`: somebody else changed the same places.
 */
export type KeepState =
  | { kind: 'kept' }
  | { kind: 'typed' }
  | { kind: 'saving' }
  | { kind: 'waiting'; why: 'no-connection' | 'signed-out' }
  | { kind: 'refused'; problems: Problem[] }
  | { kind: 'clash'; clashes: Clash[] };

/** What windows of one person tell one another: what was done since the last word, and what stands on the server now. */
export type Told = { object: string; base: Stored<unknown>; from: unknown; value: unknown };

/** What a keeper needs of the world around it. */
export type Setting<T> = {
  /** Names what is kept in the journal: what it is, and its id. */
  object: string;
  /** What it is, in words, and where it is gone on with. */
  title: string;
  href: string;
  stored: Stored<T>;
  /** Sends a change. Under the same `once` the server carries it out once. */
  send: (value: T, edit: number, once: string) => Promise<Result<{ edit: number }>>;
  /** Asks what stands on the server now. */
  fetch: () => Promise<Result<Stored<T>>>;
  /** How long typing has to rest before it is sent, in milliseconds; null where only its person saves. */
  pause: number | null;
  later: (call: () => void, milliseconds: number) => () => void;
  newOnce: () => string;
  /** Tells the other windows of this person. */
  tell: (told: Told) => void;
  onChange: (value: T, state: KeepState) => void;
  /** Called with what was joined from elsewhere, so that editors begin anew with it. */
  onJoined?: (value: T) => void;
};

const shortestRetry = 1_500;
const longestRetry = 30_000;
/** So often in a row it is joined with what others saved, before a person is asked to look. */
const mostJoins = 5;

const unreached: Problem = {
  code: 'busy',
  message: 'The server could not be reached: nothing was changed. Try again.',
};

type Unanswered<T> = { once: string; edit: number; value: T };

/**
 * Keeps what is typed into one object until the server has it: writes it down in this browser at every change, sends it
 * under a name by which a repetition is recognised, tries again by itself, and joins it with what other windows and other
 * people have saved meanwhile. It knows of no screen.
 */
export class Keeper<T> {
  private base: Stored<T>;
  private value: T;
  /** What the other windows know of this one. */
  private told: T;
  /** Whether this is the window in which was typed last: it sends, and writes the journal; the others show the same. */
  private leads = false;
  private unanswered: Unanswered<T> | null = null;
  private running: Promise<boolean> | null = null;
  private cancel: (() => void) | null = null;
  private failures = 0;
  private gone = false;
  private state: KeepState = { kind: 'kept' };
  private journal: Journal | null = null;

  constructor(private setting: Setting<T>) {
    this.base = setting.stored;
    this.value = setting.stored.value;
    this.told = this.value;
  }

  /**
   * Its page is shown: what was typed before and is not on the server is brought back.
   *
   * @param journal where it is written down; null where nothing can be
   * @returns whether anything was brought back
   */
  begin(journal: Journal | null): boolean {
    this.gone = false;
    this.journal = journal;
    const broughtBack = !this.isUnkept && this.recover();
    if (broughtBack) {
      this.leads = true;
      this.setting.onJoined?.(this.value);
      this.say(this.state);
    }
    return broughtBack;
  }

  /** What an earlier page could not bring to the server, joined with what stands there now. */
  private recover(): boolean {
    const { journal } = this;
    const { object } = this.setting;
    const stored = this.base;
    const entry = journal?.read(object);
    if (!entry) return false;
    this.unanswered = entry.unanswered as Unanswered<T> | null;
    const { value, clashes } = merged(entry.base.value as T, entry.value as T, stored.value);
    // What was sent may have arrived: then it stands there already.
    if (isAlike(value, stored.value)) {
      this.unanswered = null;
      journal?.forget(object);
      this.told = entry.value as T;
      this.tell();
      return false;
    }
    // Whether what was sent arrived is found out first: until then all stands as it was left.
    if (this.unanswered) this.base = entry.base as Stored<T>;
    this.value = this.unanswered ? (entry.value as T) : value;
    this.told = this.value;
    this.tell();
    this.state = clashes.length && !this.unanswered ? { kind: 'clash', clashes } : { kind: 'typed' };
    if (this.unanswered || (this.setting.pause !== null && clashes.length === 0)) this.schedule(0);
    return true;
  }

  /** What is typed, and how it stands. */
  get now(): { value: T; state: KeepState; base: Stored<T> } {
    return { value: this.value, state: this.state, base: this.base };
  }

  /** Whether anything typed is not on the server. */
  get isUnkept(): boolean {
    return this.unanswered !== null || !isAlike(this.value, this.base.value);
  }

  private say(state: KeepState): void {
    this.state = state;
    if (!this.gone) this.setting.onChange(this.value, state);
  }

  /** From now on this window sends; what another one sent and was not answered is this one's to find out about. */
  private lead(): void {
    if (this.leads) return;
    this.leads = true;
    this.unanswered ??= (this.journal?.read(this.setting.object)?.unanswered ?? null) as Unanswered<T> | null;
  }

  private note(): void {
    if (!this.leads) return;
    const { object, title, href } = this.setting;
    if (this.isUnkept)
      this.journal?.write(object, { title, href, base: this.base, value: this.value, unanswered: this.unanswered });
    else this.journal?.forget(object);
  }

  private tell(): void {
    this.setting.tell({ object: this.setting.object, base: this.base, from: this.told, value: this.value });
    this.told = this.value;
  }

  /** Takes what was typed. */
  change(value: T): void {
    this.lead();
    this.value = value;
    this.note();
    this.tell();
    // A clash stays until it is settled; what is typed meanwhile is kept here.
    if (this.state.kind === 'clash') this.say(this.state);
    else if (!this.isUnkept) this.say({ kind: 'kept' });
    else {
      this.say({ kind: this.running ? 'saving' : 'typed' });
      if (this.setting.pause !== null) this.schedule(this.setting.pause);
    }
  }

  /**
   * Sends all that is typed.
   *
   * @param all whether more is sent than what was sent before and never answered
   * @returns whether the server has it
   */
  save(all = true): Promise<boolean> {
    this.cancel?.();
    this.cancel = null;
    this.lead();
    this.running ??= this.run(all).finally(() => {
      this.running = null;
    });
    return this.running;
  }

  /** The connection, or the session, may be back. */
  hurry(): void {
    this.failures = 0;
    if (this.state.kind === 'waiting') void this.save();
    // The window in which it was typed may be gone.
    const isLeft = !this.leads && this.setting.pause !== null && this.state.kind === 'typed';
    if (isLeft && this.journal?.read(this.setting.object)) void this.save();
  }

  private schedule(pause: number): void {
    this.cancel?.();
    this.cancel = this.setting.later(() => {
      this.cancel = null;
      if (!this.gone) void this.save(this.setting.pause !== null);
    }, pause);
  }

  private async run(all: boolean): Promise<boolean> {
    let joins = 0;
    while (!this.gone && this.leads && this.isUnkept && this.state.kind !== 'clash' && (all || this.unanswered)) {
      // What was never answered is sent again first, as it was: the server says what became of it.
      this.unanswered ??= { once: this.setting.newOnce(), edit: this.base.edit, value: this.value };
      const sent = this.unanswered;
      this.note();
      this.say({ kind: 'saving' });
      const answer = await this.setting.send(sent.value, sent.edit, sent.once).catch(() => null);
      if (answer?.ok) {
        this.failures = 0;
        this.unanswered = null;
        this.base = { edit: answer.value.edit, value: sent.value };
        this.note();
        this.tell();
        continue;
      }
      const code = answer?.problems[0]?.code;
      if (!answer || code === 'busy' || code === 'signed-out') return this.waits(code === 'signed-out');
      this.unanswered = null;
      if (code !== 'conflict' || joins >= mostJoins) {
        this.note();
        this.say({ kind: 'refused', problems: answer.problems });
        return false;
      }
      joins += 1;
      if (!(await this.joinWithStored(sent, answer.problems))) return false;
    }
    if (this.state.kind === 'clash') return false;
    if (!this.gone) this.say(this.isUnkept ? { kind: 'typed' } : { kind: 'kept' });
    return !this.isUnkept;
  }

  /**
   * Does something else to the object, between two saves and after all that was typed before.
   *
   * @returns what was answered; null where it could not be asked
   */
  async inTurn<A extends { edit: number }>(
    act: (edit: number, once: string) => Promise<Result<A>>,
  ): Promise<Result<A> | null> {
    while (this.running) await this.running;
    if (this.isUnkept && !(await this.save())) return null;
    const own = act(this.base.edit, this.setting.newOnce()).catch(() => null);
    this.say({ kind: 'saving' });
    this.running = own.then((answer) => {
      if (answer?.ok) this.base = { edit: answer.value.edit, value: this.base.value };
      return answer?.ok ?? false;
    });
    const answer = await own;
    this.running = null;
    this.say(
      answer?.ok
        ? { kind: this.isUnkept ? 'typed' : 'kept' }
        : { kind: 'refused', problems: answer?.problems ?? [unreached] },
    );
    if (this.isUnkept && this.setting.pause !== null) this.schedule(this.setting.pause);
    return answer;
  }

  private waits(isSignedOut: boolean): false {
    if (!this.leads) {
      // The window that leads now finds out what became of it.
      this.unanswered = null;
      this.say({ kind: 'typed' });
      return false;
    }
    this.failures += 1;
    this.say({ kind: 'waiting', why: isSignedOut ? 'signed-out' : 'no-connection' });
    if (!this.gone) this.schedule(Math.min(longestRetry, shortestRetry * 2 ** Math.min(this.failures - 1, 5)));
    return false;
  }

  /** Somebody else saved meanwhile. @returns whether it could be joined, and can be sent anew */
  private async joinWithStored(sent: Unanswered<T>, problems: Problem[]): Promise<boolean> {
    const found = await this.setting.fetch().catch(() => null);
    if (!found?.ok) {
      this.unanswered = sent;
      return this.waits(found?.problems[0]?.code === 'signed-out');
    }
    // Nobody saved: it is something else that is against it.
    if (found.value.edit === sent.edit) {
      this.note();
      this.say({ kind: 'refused', problems });
      return false;
    }
    const { value, clashes } = merged(this.base.value, this.value, found.value.value);
    this.base = found.value;
    this.value = value;
    this.note();
    this.tell();
    this.setting.onJoined?.(value);
    if (clashes.length === 0) return true;
    this.say({ kind: 'clash', clashes });
    return false;
  }

  /** A person has looked at what somebody else changed in the same places, and says what is to stand. */
  settle(value: T): void {
    this.lead();
    this.value = value;
    this.state = { kind: 'typed' };
    this.note();
    this.tell();
    this.setting.onJoined?.(value);
    this.say(this.state);
    if (this.setting.pause !== null) void this.save();
  }

  /** Gives up what was typed, for what stands on the server. */
  giveUp(): void {
    this.lead();
    this.cancel?.();
    this.cancel = null;
    this.unanswered = null;
    this.value = this.base.value;
    this.note();
    this.tell();
    this.setting.onJoined?.(this.value);
    this.say({ kind: 'kept' });
  }

  /** What another window of this person typed or saved: it leads now, and this one shows the same. */
  hear({ base, from, value }: Omit<Told, 'object'>): void {
    const before = this.value;
    const theirs = base as Stored<T>;
    if (theirs.edit > this.base.edit) {
      this.value = merged(this.base.value, this.value, theirs.value).value;
      this.base = theirs;
    }
    // Both are one person's: where they typed into both, what was typed here stands here.
    this.value = merged(from as T, this.value, value as T).value;
    this.told = this.value;
    this.cancel?.();
    this.cancel = null;
    this.leads = false;
    if (!this.running) this.unanswered = null;
    if (!isAlike(this.value, before)) this.setting.onJoined?.(this.value);
    if (this.state.kind !== 'clash') this.say(this.isUnkept ? { kind: 'typed' } : { kind: 'kept' });
  }

  /** The page is gone; what is not on the server stays in the journal. */
  close(): void {
    this.cancel?.();
    this.cancel = null;
    this.gone = true;
  }
}
