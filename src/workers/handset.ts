import { seededRandom } from '../core/base/random';
import type { ShownQuestion } from '../core/question/student';
import type { HandsetOrder } from '../core/round/handsetOrder';
import { awayFor, type HandsetKind, handsetName, kindOfHandset, madeUpAnswer } from '../core/round/handsets';

/** What a handset reads of a round: no more than any device is sent. */
type Seen = {
  pace: 'own' | 'led';
  stopped: boolean;
  handedIn: boolean;
  question: { slotId: string; phase: string; vote: number; view: ShownQuestion } | null;
};

type Came = { sittingId: string; attemptId: string; pace: 'own' | 'led' };
type Opened = { epoch: number; slots: { slotId: string; view: ShownQuestion | null }[] };

/** What happened at a handset: it came in, an answer was taken or refused, it saw a phase, it is done. */
export type HandsetEvent =
  | { kind: 'came-in' | 'answered' | 'refused' | 'gone' }
  | { kind: 'saw'; question: string; at: number }
  | { kind: 'failed'; said: string };

const wait = (milliseconds: number) => new Promise<void>((resolve) => setTimeout(resolve, milliseconds));

/** One simulated device: it comes in and answers through the addresses that real ones use, and knows no more than they do. */
export class Handset {
  private cookie = '';
  private sequence = 0;
  private epoch = 0;
  private attemptId = '';
  private isOver = false;
  private stream: AbortController | null = null;
  private readonly kind: HandsetKind;
  /** What it has set out to answer, by question and vote. */
  private readonly begun = new Set<string>();

  constructor(
    private readonly order: HandsetOrder,
    private readonly number: number,
    private readonly tell: (event: HandsetEvent) => void,
    /** Whether it answers, or only looks. */
    private readonly answers = true,
  ) {
    this.kind = kindOfHandset(number);
  }

  private async ask<T>(path: string, body: unknown): Promise<{ status: number; body: T }> {
    const { origin } = this.order;
    const response = await fetch(`${origin}${path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Origin: origin, ...(this.cookie ? { Cookie: this.cookie } : {}) },
      body: JSON.stringify(body),
    });
    const set = response.headers.getSetCookie().map((one) => one.split(';')[0] ?? '');
    if (set.length) this.cookie = set.join('; ');
    return { status: response.status, body: (await response.json().catch(() => ({}))) as T };
  }

  /** Comes in. @returns whether it was let in */
  async comeIn(): Promise<boolean> {
    const { code, sittingId, key } = this.order;
    const came = await this.ask<Came & { problems?: { message: string }[] }>('/api/in', {
      code,
      sittingId,
      madeUp: key,
      name: handsetName(this.number),
    });
    if (came.status !== 200) {
      this.tell({ kind: 'failed', said: came.body.problems?.[0]?.message ?? String(came.status) });
      return false;
    }
    this.attemptId = came.body.attemptId;
    this.tell({ kind: 'came-in' });
    return true;
  }

  /** Lives until the round is stopped, or it is ended. */
  async live(): Promise<void> {
    try {
      if (!(await this.comeIn())) return;
      if (this.answers) {
        const opened = await this.open();
        if (opened?.slots.some((slot) => slot.view)) void this.answerAll(opened);
      }
      while (!this.isOver) {
        await this.watch().catch(() => undefined);
        // A break, or away for a while: it comes back by itself.
        if (!this.isOver) await wait(500);
      }
    } catch (why) {
      this.tell({ kind: 'failed', said: why instanceof Error ? why.message : String(why) });
    } finally {
      this.tell({ kind: 'gone' });
    }
  }

  end(): void {
    this.isOver = true;
    this.stream?.abort();
  }

  private async open(): Promise<Opened | null> {
    const opened = await this.ask<Opened>(`/api/attempts/${this.attemptId}/open`, null);
    if (opened.status !== 200) return null;
    this.epoch = opened.body.epoch;
    return opened.body;
  }

  /** Reads the stream of events of its round until it breaks or the round is stopped. */
  private async watch(): Promise<void> {
    this.stream = new AbortController();
    const response = await fetch(`${this.order.origin}/api/rounds/${this.order.sittingId}/live`, {
      headers: { Cookie: this.cookie, Accept: 'text/event-stream' },
      signal: this.stream.signal,
    });
    if (response.status === 404) {
      this.isOver = true;
      return;
    }
    if (!response.ok || !response.body) return;
    let rest = '';
    const decoder = new TextDecoder();
    const reader = response.body.getReader();
    for (let part = await reader.read(); !part.done; part = await reader.read()) {
      rest += decoder.decode(part.value, { stream: true });
      const events = rest.split('\n\n');
      rest = events.pop() ?? '';
      for (const event of events) if (event.startsWith('data: ')) this.see(JSON.parse(event.slice(6)) as Seen | null);
      if (this.isOver) return this.stream.abort();
    }
  }

  private see(seen: Seen | null): void {
    if (!seen) {
      this.isOver = true;
      return;
    }
    const { stopped, question } = seen;
    if (question)
      this.tell({
        kind: 'saw',
        question: `${question.slotId && question.phase}/${question.vote}`,
        at: performance.now(),
      });
    if (stopped) {
      this.isOver = true;
      return;
    }
    if (!this.answers || question?.phase !== 'open') return;
    const key = `${question.slotId}/${question.vote}`;
    if (this.begun.has(key)) return;
    this.begun.add(key);
    void this.answer(question.slotId, question.view, question.vote);
  }

  private async answer(slotId: string, view: ShownQuestion, vote: number): Promise<void> {
    const made = madeUpAnswer(this.kind, handsetName(this.number), view, vote);
    const away = awayFor(this.kind, seededRandom(handsetName(this.number), `${slotId}/${vote}`));
    if (away !== null) {
      this.stream?.abort();
      await wait(away / this.order.pace);
    }
    if (!made) return;
    await wait(made.after / this.order.pace);
    if (this.isOver) return;
    this.sequence += 1;
    const saved = await this.ask(`/api/attempts/${this.attemptId}/save`, {
      slotId,
      epoch: this.epoch,
      sequence: this.sequence,
      value: made.value,
      comeBack: false,
      vote,
    }).catch(() => ({ status: 0 }));
    this.tell({ kind: saved.status === 200 ? 'answered' : 'refused' });
  }

  /** At its own pace: one question after the other, then the hand-in, which the lazy ones leave to the stop. */
  private async answerAll({ slots }: Opened): Promise<void> {
    for (const { slotId, view } of slots) {
      if (this.isOver) return;
      if (view) await this.answer(slotId, view, 1);
    }
    if (this.kind !== 'lazy') await this.ask(`/api/attempts/${this.attemptId}/hand-in`, { epoch: this.epoch });
  }
}
