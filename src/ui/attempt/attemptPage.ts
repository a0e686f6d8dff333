import {
  type AttemptNow,
  owedAtHandIn,
  owedBefore,
  type QuestionNow,
  type WhyNotAnswer,
  whyNotAnswer,
} from '@/core/attempt/mayAnswer';
import { type Aside, type Standing, standingLater } from '@/core/attempt/standing';
import type { Store } from '../kit/browserStore';
import { AnswerKeeper, type KeeperState } from './answerKeeper';
import { isAnswered } from './chooseParts';
import type { Answer, Notice, Opening, Paper, Pulse, TakingSlot } from './opening';
import type { CheckAnswer, TakingPort } from './takingPort';

/** How often a page gives a sign of life, in milliseconds. */
export const pulseEvery = 20_000;
/** How long to wait before something that did not reach the server is tried again. */
export const pauseBeforeRetry = 1_500;

const blank: Answer = { value: null, comeBack: false };

/**
 * Where the hand-in stands: not begun; under way; waiting for the connection, and carried out as soon as it is back; done;
 * or refused, with what is said of it.
 */
export type Handing =
  | { kind: 'no' }
  | { kind: 'under-way' }
  | { kind: 'waiting'; pressedAt: number | null }
  | { kind: 'done' }
  | { kind: 'refused'; said: string };

/** All that a taking page shows of its attempt. */
export type PageState = {
  /** Null until the server has sent it. */
  paper: Paper | null;
  answers: Record<string, Answer>;
  keeping: KeeperState | { kind: 'opening' };
  /** How the attempt stands, by what was last heard and the clock; null before anything was heard. */
  standing: Standing | null;
  /** Whether another window has taken the writing over. */
  superseded: boolean;
  asides: readonly Aside[];
  notices: readonly Notice[];
  /** How far the server's clock is ahead of this browser's, in milliseconds. */
  ahead: number;
  timeZone: string;
  /** Where on the paper its student was when it was opened: the number of a question. */
  place: number;
  handing: Handing;
  /** Why it could not be opened here: nobody is signed in, or somebody else; or what the server says; null where it could. */
  shut: 'signed-out' | { said: string } | null;
};

type Setting = {
  port: TakingPort;
  store: Store | null;
  /** This browser's clock. */
  clock: () => number;
  later: (call: () => void, milliseconds: number) => void;
  onChange: (state: PageState) => void;
};

/** Where a browser keeps that a hand-in was pressed and has not been carried out. */
export const handInKey = (attemptId: string): string => `wuzzen-hand-in/${attemptId}`;

/** A hand-in that was pressed: when, and by the window of which writer epoch. */
export type Pressed = { pressedAt: number; epoch: number };

/** What a browser keeps of a hand-in that was pressed; null for nothing. */
export function readPressed(store: Pick<Store, 'getItem'> | null, attemptId: string): Pressed | null {
  try {
    const kept = JSON.parse(store?.getItem(handInKey(attemptId)) ?? 'null') as Partial<Pressed> | null;
    return typeof kept?.pressedAt === 'number' && typeof kept.epoch === 'number' ? (kept as Pressed) : null;
  } catch {
    return null;
  }
}

/**
 * What runs behind a taking page: takes the next writer epoch, keeps and sends answers, closes the fields when the time is
 * over by the server's clock as it was last heard, and carries a hand-in out once it was pressed, however often the
 * connection fails. It knows of no screen.
 */
export class AttemptPage {
  private state: PageState = {
    paper: null,
    answers: {},
    keeping: { kind: 'opening' },
    standing: null,
    superseded: false,
    asides: [],
    notices: [],
    ahead: 0,
    timeZone: 'UTC',
    place: 1,
    handing: { kind: 'no' },
    shut: null,
  };
  private keeper: AnswerKeeper | null = null;
  private epoch = 0;
  private gone = false;
  private stopWatching: (() => void) | undefined;
  private heard: Standing | null = null;
  private inView: () => Record<string, number> = () => ({});
  private handingIn = false;

  constructor(private setting: Setting) {}

  /** The server's clock, as far as this page knows it. */
  now = (): number => this.setting.clock() + this.state.ahead;

  private set(part: Partial<PageState>): void {
    if (this.gone) return;
    this.state = { ...this.state, ...part };
    this.setting.onChange(this.state);
  }

  /** Opens the attempt; tries again until the server answers. */
  async open(): Promise<void> {
    const { port, store, later } = this.setting;
    const answer = await port.open();
    if (this.gone) return;
    if (!answer || answer.status >= 500 || answer.status === 429) {
      later(() => !this.gone && void this.open(), pauseBeforeRetry);
      return;
    }
    if (answer.status !== 200) {
      // Whatever has become of it, the server says how it stands.
      if (answer.status === 401 || answer.status === 404) this.set({ shut: 'signed-out' });
      else if (answer.status === 403)
        this.set({ shut: { said: answer.said ?? 'This exam cannot be opened from here. Ask your instructor.' } });
      else if (!(await this.beat())) later(() => !this.gone && void this.open(), pauseBeforeRetry);
      return;
    }
    const { opening } = answer;
    this.epoch = opening.epoch;
    this.hear({ ...opening, superseded: false }, opening.now - (answer.heardAt ?? this.setting.clock()));
    const keeper = new AnswerKeeper({
      attemptId: port.key,
      epoch: this.epoch,
      send: port.save,
      store: port.keeps ? store : null,
      onState: (keeping) => this.set({ keeping }),
      onAside: () => void this.beat(),
      later,
      now: this.now,
      hold: opening.anonymous,
    });
    this.keeper = keeper;
    const recovered = keeper.recover();
    this.set({
      paper: opening,
      timeZone: opening.timeZone,
      place: opening.place,
      shut: null,
      ...(recovered.length ? {} : { keeping: opening.anonymous ? { kind: 'held' } : { kind: 'saved', at: null } }),
      answers: Object.fromEntries(
        [...opening.answers, ...recovered].map(({ slotId, value, comeBack }) => [slotId, { value, comeBack }]),
      ),
    });
    this.stopWatching = port.watch?.(this.epoch, (pulse) => this.hear(pulse, pulse.now - this.setting.clock()));
    this.resume(opening);
  }

  /** A hand-in that an earlier page of this browser could not send is carried out, unless something came between. */
  private resume(opening: Opening): void {
    const pressed = readPressed(this.setting.store, this.setting.port.key);
    if (!pressed) return;
    const reopened = opening.standing.kind === 'running' && opening.standing.reopened;
    if (reopened || pressed.epoch !== this.epoch - 1) this.press(null);
    else void this.handIn(this.inView, pressed.pressedAt);
  }

  /** The page is gone: nothing more is done, and what waits stays in the browser. */
  close(): void {
    this.gone = true;
    this.stopWatching?.();
    this.keeper?.stop();
  }

  /** What the server says about the attempt, asked or unasked. */
  private hear(pulse: Pick<Pulse, 'standing' | 'superseded' | 'asides' | 'notices'>, ahead: number): void {
    this.heard = pulse.standing;
    this.set({
      ahead,
      superseded: pulse.superseded,
      asides: pulse.asides,
      notices: pulse.notices,
      standing: standingLater(pulse.standing, this.setting.clock() + ahead),
    });
    const { kind } = pulse.standing;
    // Ended: what still waits here is sent, so that the server keeps it aside and nothing is lost.
    if (kind === 'handed-in' || kind === 'not-handed-in' || kind === 'voided') {
      // A hand-in that was pressed and did not get through is still sent: whoever invigilates is told of it.
      const isPending = this.state.handing.kind === 'waiting' || this.state.handing.kind === 'under-way';
      if (!isPending) this.press(null);
      void this.keeper?.flush();
    } else if (this.state.handing.kind === 'done') this.set({ handing: { kind: 'no' } });
    if (pulse.superseded) this.press(null);
  }

  /** Asks how the attempt stands, with a sign of life. @returns whether the server has said it */
  async beat(): Promise<boolean> {
    const answer = await this.setting.port.pulse?.(this.epoch);
    if (this.gone || !answer) return false;
    this.hear(answer, answer.now - this.setting.clock());
    this.keeper?.hurry();
    return true;
  }

  /** The clock has gone on: fields close, and where there is no grace the page hands in. */
  tick(): void {
    if (!this.heard || this.gone) return;
    const standing = standingLater(this.heard, this.now());
    if (standing.kind !== this.state.standing?.kind) this.set({ standing });
    if (standing.kind !== 'time-over' || this.handingIn || !this.state.paper || this.state.superseded) return;
    // Where a grace has passed, only a hand-in that was pressed would have counted: the server says what became of it.
    if (hasGrace(this.heard)) return;
    if (this.state.handing.kind === 'no' || this.state.handing.kind === 'refused') void this.handIn(this.inView, null);
  }

  /** Whether nothing at all can be entered here now. */
  isClosed(): boolean {
    const { standing, superseded, handing, shut, paper } = this.state;
    // Answers without a name go with the hand-in: what came after it could not even be kept aside.
    const isSealed = handing.kind === 'done' || (handing.kind === 'under-way' && (paper?.anonymous ?? false));
    return superseded || shut !== null || standing?.kind !== 'running' || isSealed;
  }

  /** The attempt and its questions as the rule for answering sees them. */
  private seen(): { attempt: AttemptNow; questions: (QuestionNow & { slotId: string })[] } {
    const { paper, answers, standing } = this.state;
    const running = standing?.kind === 'running' || standing?.kind === 'grace' || standing?.kind === 'time-over';
    return {
      attempt: {
        phase: running ? 'running' : 'handed-in',
        deadline: running ? standing.deadline : null,
        reached: paper?.onwardOnly ? paper.reached : 0,
      },
      questions: paper ? questionsOf(paper, answers) : [],
    };
  }

  /** Why a question may not be answered now, by the one rule; null where it may. */
  whyNot(slotId: string): WhyNotAnswer | null {
    const { attempt, questions } = this.seen();
    const question = questions.find((one) => one.slotId === slotId);
    return question ? whyNotAnswer(attempt, question, this.now()) : 'ended';
  }

  /** The numbers of the questions that are owed before a page can be gone on to, or at the hand-in. */
  owed(to: number | 'hand-in'): number[] {
    const { attempt, questions } = this.seen();
    return to === 'hand-in'
      ? owedAtHandIn(attempt, questions, this.now())
      : owedBefore(attempt, questions, to, this.now());
  }

  /** Takes an answer, or the sign to come back. What cannot be answered now is not taken. */
  change(slotId: string, part: Partial<Answer>, pause?: number): void {
    this.tick();
    if (!this.keeper || this.isClosed()) return;
    const why = this.whyNot(slotId);
    if (why !== null && !(why === 'beyond-choose' && !('value' in part))) return;
    const next = { ...(this.state.answers[slotId] ?? blank), ...part };
    this.set({ answers: { ...this.state.answers, [slotId]: next } });
    this.keeper.keep(slotId, next.value, next.comeBack, pause);
  }

  private changeSlot(slotId: string, part: Partial<TakingSlot>): void {
    const { paper } = this.state;
    if (!paper) return;
    const slots = paper.slots.map((slot) => (slot.slotId === slotId ? { ...slot, ...part } : slot));
    this.set({ paper: { ...paper, slots } });
  }

  /** Opens a question that has a time of its own. @returns whether the server has answered */
  async show(slotId: string): Promise<boolean> {
    const opened = await this.setting.port.show(slotId);
    if (opened) this.changeSlot(slotId, opened);
    else void this.beat();
    return opened !== null;
  }

  /** Notes what the server says of a question that was checked. @returns what went wrong, in words */
  private note(slotId: string, answer: CheckAnswer): string | null {
    if (!answer.ok) {
      void this.beat();
      return answer.message ?? 'The server could not be reached. Try again.';
    }
    this.changeSlot(slotId, { checked: answer.checked });
    return null;
  }

  /** Checks a question as it stands here. @returns what went wrong, in words */
  async check(slotId: string): Promise<string | null> {
    if (!(await this.keeper?.flush())) return 'Your answer could not be sent yet. Try again.';
    return this.note(slotId, await this.setting.port.check(slotId));
  }

  /** Takes a missed question again. @returns what went wrong, in words */
  async again(slotId: string): Promise<string | null> {
    return this.note(slotId, await this.setting.port.again(slotId));
  }

  /** Goes on to a page from which there is no way back. @returns what went wrong, in words; null once the server has noted it */
  async onward(page: number): Promise<string | null> {
    if (!(await this.keeper?.flush())) return unreached;
    const noted = await this.setting.port.onward(page);
    if (!noted.ok) {
      void this.beat();
      return noted.message ?? unreached;
    }
    const { paper } = this.state;
    if (paper) this.set({ paper: { ...paper, reached: Math.max(paper.reached, page) } });
    return null;
  }

  /** Keeps in the browser that the hand-in was pressed, or that it was not. */
  private press(pressedAt: number | null): void {
    const { store, port } = this.setting;
    try {
      // What another window of this browser has pressed is its own.
      if (pressedAt === null) {
        const kept = readPressed(store, port.key);
        if (kept && kept.epoch <= this.epoch) store?.removeItem(handInKey(port.key));
      } else if (port.keeps) store?.setItem(handInKey(port.key), JSON.stringify({ pressedAt, epoch: this.epoch }));
    } catch {
      // A full or forbidden store: it is carried out as long as the page is open.
    }
  }

  /** Its student presses "Hand in". */
  pressHandIn(inView: () => Record<string, number>): Promise<void> {
    return this.handIn(inView, this.now());
  }

  /** How long each question was in view is read when it is handed in. */
  measure(inView: () => Record<string, number>): void {
    this.inView = inView;
  }

  /** A hand-in that waits for the connection is not to be carried out. */
  dropHandIn(): void {
    if (this.state.handing.kind !== 'waiting' && this.state.handing.kind !== 'refused') return;
    this.press(null);
    this.set({ handing: { kind: 'no' } });
  }

  /**
   * Sends what waits, then hands in, as often as it takes.
   *
   * @param pressedAt when its student pressed it; null where the time is over and the page does it by itself
   */
  private async handIn(inView: () => Record<string, number>, pressedAt: number | null): Promise<void> {
    if (this.handingIn || this.state.handing.kind === 'done') return;
    this.handingIn = true;
    this.set({ handing: { kind: 'under-way' } });
    if (pressedAt !== null) this.press(pressedAt);
    const sent = (await this.keeper?.flush()) ?? true;
    // An attempt may run out while what waits for it cannot be sent; what was given counts by what arrives.
    const handed = sent
      ? await this.setting.port.handIn({
          answers: this.keeper?.held() ?? [],
          inView: inView(),
          byClock: pressedAt === null,
          pressedAt,
          epoch: this.epoch,
        })
      : { ok: false as const, message: null };
    this.handingIn = false;
    if (this.gone) return;
    if (handed.ok) {
      this.press(null);
      this.keeper?.handedIn();
      this.set({ handing: { kind: 'done' } });
      // What was given while it was under way comes too late to count: the server keeps it aside.
      void this.keeper?.flush();
      if (this.setting.port.pulse) void this.beat();
      return;
    }
    if (handed.message !== null) {
      this.press(null);
      this.set({ handing: pressedAt === null ? { kind: 'no' } : { kind: 'refused', said: handed.message } });
      void this.beat();
      return;
    }
    this.set({ handing: { kind: 'waiting', pressedAt } });
    this.setting.later(() => {
      if (this.gone || this.state.handing.kind !== 'waiting') return;
      // The time may have been made longer meanwhile: then the page does not hand in by itself.
      this.tick();
      const stillDue = pressedAt !== null || this.state.standing?.kind === 'time-over';
      if (stillDue) void this.handIn(inView, pressedAt);
      else this.set({ handing: { kind: 'no' } });
    }, pauseBeforeRetry);
  }
}

/** Whether an attempt may be handed in for a while after its end, and counts only then. */
const hasGrace = (heard: Standing): boolean =>
  heard.kind === 'grace' ||
  (heard.kind === 'running' &&
    heard.deadline !== null &&
    heard.handInUntil !== null &&
    heard.handInUntil > heard.deadline);

/** What is said where going on to a page did not reach the server. */
export const unreached = 'The server could not be reached: you are still here. Try again.';

/** The questions of a paper as the rule for answering sees them, with what stands on the page. */
function questionsOf(paper: Paper, answers: Record<string, Answer>): (QuestionNow & { slotId: string })[] {
  const filled = new Map<string, number>();
  for (const slot of paper.slots)
    if (isAnswered(answers[slot.slotId])) filled.set(slot.partId, (filled.get(slot.partId) ?? 0) + 1);
  return paper.slots.map((slot) => {
    const answered = isAnswered(answers[slot.slotId]);
    const part = paper.choose[slot.partId];
    return {
      slotId: slot.slotId,
      number: slot.number,
      page: slot.page,
      required: slot.required,
      answered,
      timed: slot.limit !== null,
      until: slot.until,
      closed: slot.checked?.closed ?? false,
      full: part?.extra === 'refused' && !answered && (filled.get(slot.partId) ?? 0) >= part.count,
    };
  });
}
