import { and, eq } from 'drizzle-orm';
import { attemptActs } from '@/app/api/attempts/acts';
import { reply } from '@/app/api/reply';
import { standingSaid } from '@/core/attempt/standing';
import { minute, second } from '@/core/base/time';
import { attempt, paperSlot, response, responseAside } from '@/db/schema';
import { handInExpired } from '@/server/attempt/endAttempt';
import { seeReceipt } from '@/server/attempt/handIn';
import { readSave, saveResponses } from '@/server/attempt/saveResponses';
import { startAttempt } from '@/server/attempt/startAttempt';
import type { Actor, Context } from '@/server/house/context';
import { decideAside, seeKeptAside } from '@/server/room/asideAnswers';
import { addTime, handInFor, reopen, restoreAttempt, voidAttempt } from '@/server/room/invigilate';
import { correct } from '@/server/room/reportedQuestions';
import { begins, must } from '@/server/testing/school';
import { AttemptPage, type PageState } from '@/ui/attempt/attemptPage';
import { sendKept } from '@/ui/attempt/leftovers';
import type { Net } from '@/ui/attempt/requests';
import { attemptPort } from '@/ui/attempt/takingPort';
import type { Store } from '@/ui/kit/browserStore';
import type { NetMode, Step, Story } from './story';
import { Truth } from './truth';
import { type StoryWorld, startOf } from './world';

/** What a story shows that must not be. */
export class Broken extends Error {}

const insist = (holds: boolean, what: () => string): void => {
  if (!holds) throw new Broken(what());
};

/** A browser's store. */
class MemoryStore implements Store {
  kept = new Map<string, string>();
  keys = () => [...this.kept.keys()];
  getItem = (key: string) => this.kept.get(key) ?? null;
  setItem = (key: string, value: string) => void this.kept.set(key, value);
  removeItem = (key: string) => void this.kept.delete(key);
}

type Timer = { at: number; call: () => void };
type Window = {
  store: MemoryStore;
  mode: NetMode;
  page: AttemptPage | null;
  state: PageState | null;
  timers: Timer[];
  /** Answers of the server that are slow to come. */
  onTheirWay: (() => void)[];
  /** What its page took of its student, the newest of each question, since it was opened. */
  taken: Map<string, string>;
};

/** So often a window's timers go off within one wait: what is tried again and again without a network is tried as well so. */
const mostTimers = 8;
const text = (value: unknown): string => JSON.stringify(value ?? null);
/** All that is under way is done: nothing here waits for anything but what is done already. */
const settle = () => new Promise<void>((resolve) => setImmediate(resolve));

/** Plays a story in memory: real use-cases, real pages without a screen, a network and a clock that do as they are told. */
export class Play {
  now: number;
  readonly truth: Truth;
  private attemptId = '';
  private readonly sittingId: string;
  private readonly student: Actor;
  private readonly windows: Window[];
  /** Everything that any page took of its student, and what the server confirmed. */
  private given: { slotId: string; value: string }[] = [];
  private confirmed = new Set<string>();
  private slots: { id: string; versionId: string }[] = [];
  private broken: unknown;

  constructor(
    private world: StoryWorld,
    private story: Story,
    place: { sittingId: string; student: Actor },
  ) {
    this.sittingId = place.sittingId;
    this.student = place.student;
    this.now = startOf(story.rules);
    this.truth = new Truth(story.rules);
    const first = new MemoryStore();
    const stores = [first, story.oneBrowser ? first : new MemoryStore()];
    this.windows = stores.map((store) => ({
      store,
      mode: 'up',
      page: null,
      state: null,
      timers: [],
      onTheirWay: [],
      taken: new Map(),
    }));
  }

  private get db() {
    return this.world.school.db;
  }

  private as(actor: Actor): Context {
    return this.world.school.as(actor, this.now);
  }

  private get teacher(): Context {
    return this.as(this.world.school.teacher);
  }

  private where(): [string, string, string] {
    return [this.world.school.courseId, this.sittingId, this.attemptId];
  }

  /** The whole story, from its start to what is so at its end. */
  async play(): Promise<void> {
    this.attemptId = must(startAttempt(this.as(this.student), this.sittingId)).attemptId;
    this.slots = this.db
      .select({ id: paperSlot.id, versionId: paperSlot.versionId })
      .from(paperSlot)
      .where(eq(paperSlot.attemptId, this.attemptId))
      .orderBy(paperSlot.position)
      .all();
    await this.does({ kind: 'open', window: 0 });
    for (const step of this.story.steps) {
      this.now += second;
      await this.does(step);
      this.look();
    }
    await this.end();
  }

  /** The network of a window, with the server behind it. */
  private net(window: Window): Net {
    return async (address, request) => {
      if (window.mode === 'down') throw new Error('no network');
      const answer = await this.serve(address, JSON.parse(String(request.body))).catch((why: unknown) => {
        // A page takes this for a server that does not answer: it is told at the next look.
        this.broken ??= why;
        throw why;
      });
      if (window.mode === 'answers-lost') throw new Error('the answer was lost');
      if (window.mode === 'slow') await new Promise<void>((resolve) => window.onTheirWay.push(resolve));
      return answer;
    };
  }

  /** What was slow to come is there. */
  private async arrives(window: Window): Promise<void> {
    while (window.onTheirWay.length) {
      for (const come of window.onTheirWay.splice(0)) come();
      await settle();
    }
  }

  private async serve(address: string, body: unknown): Promise<Response> {
    const act = address.split('/').at(-1) ?? '';
    this.truth.sweep(this.now);
    if (act === 'save') {
      const save = readSave(this.attemptId, body);
      insist(save !== null, () => `a page sent what is no answer: ${text(body)}`);
      if (!save) throw new Error('no save');
      const before = this.revisionOf(save.slotId);
      const [saved] = saveResponses(this.db, [{ context: this.as(this.student), save }]);
      if (saved?.ok) {
        if (this.revisionOf(save.slotId) !== before) this.mayBeSaved(save.slotId, save.value);
        this.confirmed.add(`${save.slotId} ${text(save.value)}`);
      }
      return reply(saved as NonNullable<typeof saved>);
    }
    const served = attemptActs[act];
    if (!served) throw new Error(`nothing at ${address}`);
    const sent = served.sent?.((body ?? {}) as Record<string, unknown>) ?? [];
    const owed = act === 'onward' && this.isOwed();
    const result = await served.ask(this.as(this.student), this.attemptId, ...sent);
    if (act === 'onward' && result.ok)
      insist(!(owed && (body as { page: number }).page > 0), () => 'what has to be answered was left behind');
    if (act === 'hand-in') this.handedIn(result.ok, body as { byClock?: boolean; pressedAt?: number; epoch?: number });
    return reply(result);
  }

  /** A hand-in has reached the server: whether it was carried out is as it must be. */
  private handedIn(done: boolean, body: { byClock?: boolean; pressedAt?: number | null; epoch?: number }): void {
    const how = {
      byClock: body.byClock ?? false,
      pressedAt: body.pressedAt == null ? null : body.pressedAt - begins,
    };
    const row = this.row();
    const takes = this.truth.takesHandIn(this.now, how) && (body.epoch ?? row.writerEpoch) === row.writerEpoch;
    if (takes && done) this.truth.handIn(this.now, how.byClock ? 'page' : 'student');
    else if (takes)
      insist(this.isOwed(), () => 'a hand-in was refused though nothing is owed that could still be answered');
    else if (this.truth.phase === 'running')
      insist(!done, () => `a hand-in was carried out that was not to be: ${text(body)} at ${this.now}`);
  }

  private row() {
    const row = this.db.select().from(attempt).where(eq(attempt.id, this.attemptId)).get();
    if (!row) throw new Error('an attempt');
    return row;
  }

  private revisionOf(slotId: string): number {
    const row = this.db.select().from(response).where(eq(response.slotId, slotId)).get();
    return row?.revision ?? 0;
  }

  /** An answer was taken: it was in time, not behind, and not beyond what its part takes. */
  private mayBeSaved(slotId: string, value: unknown): void {
    const { rules } = this.story;
    const has = (one: (typeof rules)[number]) => rules.includes(one);
    const place = this.slots.findIndex((slot) => slot.id === slotId);
    const { deadline } = this.truth;
    insist(deadline === null || this.now <= deadline + 3 * second, () => 'an answer was taken after the end');
    insist(this.truth.phase === 'running', () => 'an answer was taken though nobody was writing');
    insist(!has('onward') || place >= this.row().reached, () => 'an answer was taken to a question that was left');
    const slot = this.db.select().from(paperSlot).where(eq(paperSlot.id, slotId)).get();
    const own = has('own-time') && place === 1 ? 3 : has('time-for-each') ? 4 : null;
    if (own !== null) {
      const limit = own * minute * (has('extra-time') ? 1.5 : 1);
      const opened = (slot?.openedAt ?? Number.POSITIVE_INFINITY) - begins;
      insist(this.now <= opened + limit + 3 * second, () => 'an answer was taken after the time for its question');
    }
    if (!has('choose') || place < 2 || value === null) return;
    const chosen = this.slots.slice(2).filter(({ id }) => {
      const row = this.db.select().from(response).where(eq(response.slotId, id)).get();
      return text(row?.value) !== 'null';
    });
    insist(chosen.length <= 2, () => 'a part took more answers than it asks for');
  }

  /** Whether the one question that has to be answered is empty, and can still be reached and answered. */
  private isOwed(): boolean {
    const { rules } = this.story;
    const row = this.row();
    const stored = this.db
      .select()
      .from(response)
      .where(eq(response.slotId, this.slots[0]?.id ?? ''))
      .get();
    return (
      rules.includes('required') &&
      text(stored?.value) === 'null' &&
      !(rules.includes('onward') && row.reached > 0) &&
      this.now < (this.truth.deadline ?? Number.POSITIVE_INFINITY)
    );
  }

  private open(window: Window): void {
    window.page?.close();
    window.timers = [];
    window.taken = new Map();
    window.state = null;
    window.page = new AttemptPage({
      port: { ...attemptPort(this.attemptId, this.net(window)), watch: null },
      store: window.store,
      clock: () => begins + this.now + this.story.skew,
      later: (call, pause) => window.timers.push({ at: this.now + pause, call }),
      onChange: (state) => {
        window.state = state;
      },
    });
    void window.page.open();
  }

  private async does(step: Step): Promise<void> {
    if (step.kind === 'wait') return this.wait(step.seconds * second);
    if (step.kind === 'to-end') return this.toEnd(step);
    if ('window' in step) {
      const window = this.windows[step.window] as Window;
      await this.doesAt(window, step);
    } else this.invigilates(step);
    await settle();
  }

  private async doesAt(window: Window, step: Extract<Step, { window: number }>): Promise<void> {
    if (step.kind === 'net') {
      const isBack = window.mode !== 'up' && step.mode === 'up';
      window.mode = step.mode;
      await this.arrives(window);
      // The browser says that the connection is back.
      if (isBack) void window.page?.beat();
      return;
    }
    if (step.kind === 'open' || step.kind === 'reload') {
      if (this.row().state === 'running' && (step.kind === 'reload' || !window.page)) this.open(window);
      return;
    }
    const { page, state } = window;
    if (!page) return;
    if (step.kind === 'close') {
      page.close();
      window.page = null;
      return;
    }
    if (step.kind === 'press') void page.pressHandIn(() => ({}));
    if (step.kind === 'drop') page.dropHandIn();
    if (step.kind === 'beat') void page.beat();
    if (step.kind === 'next' && state?.paper?.onwardOnly) {
      const to = state.paper.reached + 1;
      if (to <= this.slots.length) void page.onward(to);
    }
    const slot = 'question' in step ? state?.paper?.slots[step.question] : undefined;
    if (!slot) return;
    if (step.kind === 'come-back') page.change(slot.slotId, { comeBack: true }, 0);
    if (step.kind === 'check' && slot.checked) void page.check(slot.slotId);
    if (step.kind === 'type') await this.types(window, slot.slotId, step.value);
  }

  /** Answers a question as its student would, after opening it where it has a time of its own. */
  private async types(window: Window, slotId: string, choice: number | null): Promise<void> {
    const { page } = window;
    const slotOf = () => window.state?.paper?.slots.find((slot) => slot.slotId === slotId);
    if (!page) return;
    if (!slotOf()?.view) void page.show(slotId);
    await settle();
    const view = slotOf()?.view;
    if (!view || !('choices' in view)) return;
    const value = choice === null ? null : { picked: view.choices[choice]?.key ?? '' };
    const before = window.state?.answers;
    page.change(slotId, { value }, 0);
    if (window.state?.answers === before) return;
    this.given.push({ slotId, value: text(value) });
    window.taken.set(slotId, text(value));
  }

  private invigilates(step: Exclude<Step, { window: number }>): void {
    const { truth, now, teacher } = this;
    truth.sweep(now);
    const { phase } = truth;
    const agree = (done: boolean, may: boolean) =>
      insist(done === may, () => `${step.kind} was ${done ? 'done' : 'refused'} in ${phase}`);
    switch (step.kind) {
      case 'more-time': {
        const given = addTime(teacher, this.world.school.courseId, this.sittingId, [this.attemptId], step.minutes);
        agree(given.ok, phase === 'running' && truth.deadline !== null);
        if (given.ok) truth.added += step.minutes * minute;
        return;
      }
      case 'reopen': {
        const done = reopen(teacher, ...this.where(), { minutes: step.minutes, reason: 'a reason' }).ok;
        const may = phase === 'handed-in' || phase === 'not-handed-in';
        const later = new Truth(this.story.rules);
        later.added = truth.added + now - (truth.endedAt ?? now) + step.minutes * minute;
        agree(done, may && (later.deadline === null || later.deadline >= now + minute));
        if (done) truth.reopen(now, step.minutes);
        return;
      }
      case 'void':
        agree(voidAttempt(teacher, ...this.where(), 'a reason').ok, phase !== 'voided');
        if (phase !== 'voided') truth.void(now);
        return;
      case 'restore':
        agree(restoreAttempt(teacher, ...this.where()).ok, phase === 'voided');
        if (phase === 'voided') truth.restore(now);
        return;
      case 'hand-in-for': {
        const may = phase === 'running' || phase === 'not-handed-in';
        agree(handInFor(teacher, ...this.where()).ok, may);
        if (may) truth.handInFor(now);
        return;
      }
      case 'correct':
        must(correct(teacher, this.world.school.courseId, this.sittingId, this.slots[0]?.versionId ?? '', 'Read B.'));
        return;
      case 'decide': {
        const [first] = must(seeKeptAside(teacher, this.world.school.courseId, this.sittingId, this.student.userId));
        if (!first) return;
        const { slotId, epoch, sequence } = first;
        const decided = decideAside(
          teacher,
          this.world.school.courseId,
          this.sittingId,
          { slotId, epoch, sequence },
          step.take,
        );
        agree(decided.ok, phase !== 'running');
      }
    }
  }

  /** Time passes: timers go off, pages look at their clocks, and at the end every page gives a sign of life. */
  private async wait(length: number): Promise<void> {
    const until = this.now + length;
    const { truth } = this;
    const gone = new Map<Window, number>();
    for (;;) {
      const ends = [truth.deadline, truth.handInUntil].filter((end) => end !== null && end > this.now) as number[];
      const timers = this.windows.flatMap((window) =>
        (gone.get(window) ?? 0) < mostTimers ? window.timers.map((timer) => Math.max(timer.at, this.now)) : [],
      );
      const next = Math.min(until, ...ends, ...timers);
      this.now = next;
      for (const window of this.windows) {
        if ((gone.get(window) ?? 0) >= mostTimers) continue;
        const due = window.timers.filter((timer) => timer.at <= this.now);
        window.timers = window.timers.filter((timer) => timer.at > this.now);
        gone.set(window, (gone.get(window) ?? 0) + due.length);
        for (const timer of due) timer.call();
        window.page?.tick();
      }
      await settle();
      for (const window of this.windows) await this.arrives(window);
      const isDone =
        timers.every((at) => at > until) || this.windows.every((one) => (gone.get(one) ?? 0) >= mostTimers);
      if (next >= until && isDone) break;
    }
    for (const window of this.windows) {
      window.page?.tick();
      void window.page?.beat();
      await settle();
      await this.arrives(window);
    }
  }

  private async toEnd({ of, seconds }: Extract<Step, { kind: 'to-end' }>): Promise<void> {
    const questions = this.windows.flatMap((one) => one.state?.paper?.slots.flatMap((slot) => slot.until ?? []) ?? []);
    const ahead = questions.map((at) => at - begins).filter((at) => at > this.now);
    const end =
      of === 'deadline'
        ? this.truth.deadline
        : of === 'grace'
          ? this.truth.handInUntil
          : ahead.length
            ? Math.min(...ahead)
            : null;
    if (end === null || end > this.now + 60 * minute) return;
    await this.wait(Math.max(0, end + seconds * second - this.now));
  }

  /** What must be so after every step. */
  private look(): void {
    if (this.broken) throw this.broken;
    handInExpired({ db: this.db, now: begins + this.now });
    this.truth.sweep(this.now);
    const { state, endedAt, endedBy, added } = this.row();
    insist(added === this.truth.added, () => `${added} ms were added, and it should be ${this.truth.added}`);
    const { phase, by } = this.truth;
    const at = this.truth.endedAt === null ? null : begins + this.truth.endedAt;
    insist(
      state === phase && endedAt === at && (state === 'running' || state === 'voided' || endedBy === by),
      () => `it stands as ${text([state, endedAt, endedBy])}, and is ${text([phase, at, by])}`,
    );
    for (const window of this.windows) {
      if (!window.page || !window.state) continue;
      if (window.state.keeping.kind === 'saved' && window.state.keeping.at !== null)
        for (const [slotId, value] of window.taken)
          insist(this.isKept(slotId, value), () => `a page says saved, and the server has nothing of ${value}`);
      // The page goes on to its receipt, from which what is left is sent.
      const { standing, handing, keeping } = window.state;
      const ended = ['handed-in', 'not-handed-in', 'voided'].includes(standing?.kind ?? '') || handing.kind === 'done';
      if (ended && !('waiting' in keeping) && keeping.kind !== 'saving') {
        window.page.close();
        window.page = null;
      }
    }
  }

  /** Whether an answer was taken, or is kept aside. */
  private isKept(slotId: string, value: string): boolean {
    if (this.confirmed.has(`${slotId} ${value}`)) return true;
    const aside = this.db
      .select({ value: responseAside.value })
      .from(responseAside)
      .where(eq(responseAside.slotId, slotId))
      .all();
    return aside.some((one) => text(one.value) === value);
  }

  /** What must be so in the end, once every network is back. */
  private async end(): Promise<void> {
    for (const window of this.windows) window.mode = 'up';
    await this.wait(20 * second);
    this.look();
    for (const window of this.windows) {
      const { page, state } = window;
      if (!page || !state) continue;
      const receipt = must(seeReceipt(this.as(this.student), this.attemptId));
      insist(
        text(state.standing) === text(receipt.standing),
        () => `a page says ${text(state.standing)}, and its receipt ${text(receipt.standing)}`,
      );
      insist(state.superseded || state.handing.kind !== 'waiting', () => 'a hand-in waits, though the network is back');
      insist(state.keeping.kind !== 'saving', () => 'a page says for ever that it is saving');
      const isOwner = !state.superseded && state.standing?.kind === 'running';
      if (isOwner)
        for (const [slotId, value] of window.taken)
          insist(this.isKept(slotId, value), () => `a page with its network back keeps ${value} to itself`);
    }
    await this.leave();
    await this.closeAndSend();
    this.everyAnswerIsSomewhere();
    this.receiptIsTrue();
  }

  /** From wherever a story came to, its student gets out: a fresh page, what is owed, and the hand-in. */
  private async leave(): Promise<void> {
    if (this.truth.phase !== 'running') return;
    const window: Window = {
      store: new MemoryStore(),
      mode: 'up',
      page: null,
      state: null,
      timers: [],
      onTheirWay: [],
      taken: new Map(),
    };
    this.open(window);
    await settle();
    const shown = window.state as PageState | null;
    const stored = new Map(
      this.db
        .select()
        .from(response)
        .where(eq(response.attemptId, this.attemptId))
        .all()
        .map((row) => [row.slotId, text(row.value)]),
    );
    for (const [slotId, answer] of Object.entries(shown?.answers ?? {}))
      insist(text(answer.value) === (stored.get(slotId) ?? 'null'), () => 'a page opened anew shows another answer');
    for (const number of window.page?.owed('hand-in') ?? []) {
      await this.types(window, this.slots[number - 1]?.id ?? '', 0);
      await window.page?.beat();
      await settle();
    }
    await window.page?.pressHandIn(() => ({}));
    await settle();
    this.look();
    const phase: string = this.truth.phase;
    insist(phase === 'handed-in' || phase === 'not-handed-in', () => `nobody gets out: ${text(window.state?.handing)}`);
    window.page?.close();
  }

  /** The windows are closed, and what their browsers keep is sent from the student's other pages. */
  private async closeAndSend(): Promise<void> {
    for (const window of this.windows) window.page?.close();
    this.look();
    for (const { store } of this.windows) {
      await sendKept(this.attemptId, store, this.net(this.windows[0] as Window));
      insist(store.keys().length === 0, () => `a browser keeps for ever: ${[...store.kept].join(' ')}`);
    }
    this.look();
  }

  /** Every answer that a page took is on the paper, was on it, or is kept aside with its reason. */
  private everyAnswerIsSomewhere(): void {
    const last = new Map(this.given.map(({ slotId, value }) => [slotId, value]));
    for (const [slotId, value] of last) insist(this.isKept(slotId, value), () => `the answer ${value} is lost`);
  }

  /** The receipt tells what is so: how it ended, how much is answered, and what was kept aside. */
  private receiptIsTrue(): void {
    const receipt = must(seeReceipt(this.as(this.student), this.attemptId));
    const { phase, by, endedAt } = this.truth;
    insist(receipt.standing.kind === phase, () => `the receipt says ${receipt.standing.kind}, and it is ${phase}`);
    if (receipt.standing.kind === 'handed-in')
      insist(
        receipt.standing.by === by && receipt.standing.at === begins + (endedAt ?? 0),
        () => `the receipt says ${text(receipt.standing)}, and it was ${by} at ${endedAt}`,
      );
    const answered = this.db
      .select()
      .from(response)
      .where(eq(response.attemptId, this.attemptId))
      .all()
      .filter((row) => text(row.value) !== 'null');
    insist(receipt.answers?.answered === answered.length, () => 'the receipt counts other answers than there are');
    insist(standingSaid(receipt.standing, receipt.timeZone, receipt.answers).title !== '', () => 'no word of it');
    // Whatever differs from what counts and was not decided on is listed.
    const open = this.db
      .select({ slotId: responseAside.slotId })
      .from(responseAside)
      .innerJoin(paperSlot, eq(paperSlot.id, responseAside.slotId))
      .where(and(eq(paperSlot.attemptId, this.attemptId)))
      .all();
    const named = new Set(receipt.asides.map((aside) => this.slots[aside.number - 1]?.id));
    for (const { slotId } of open) {
      const rows = this.db.select().from(responseAside).where(eq(responseAside.slotId, slotId)).all();
      const stored = this.db.select().from(response).where(eq(response.slotId, slotId)).get();
      const newest = rows
        .filter((row) => row.decision === null)
        .sort((a, b) => a.epoch - b.epoch || a.sequence - b.sequence)
        .at(-1);
      if (newest && text(newest.value) !== text(stored?.value))
        insist(named.has(slotId), () => 'an answer kept aside is not on the receipt');
    }
  }
}
