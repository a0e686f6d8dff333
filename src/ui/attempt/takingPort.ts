import type { ShownQuestion } from '@/core/question/student';
import type { CheckedQuestion } from '@/server/attempt/tries';
import type { FileHandling } from '../question/playing';
import type { PendingAnswer, SendOutcome } from './answerKeeper';
import { type Opening, type Pulse, takeHanded } from './opening';
import { ask, outcomeOf } from './requests';

export type HandedIn = { ok: true } | { ok: false; message: string | null };
export type OpenedQuestion = { view: ShownQuestion; until: number | null };

export type CheckAnswer = { ok: true; checked: CheckedQuestion } | { ok: false; message: string | null };

/** What a taking page needs of the world outside: a running attempt on the server, or a trial that leaves no trace. */
export type TakingPort = {
  /** Names what the browser keeps of it. */
  key: string;
  /** Whether answers are kept anywhere beyond the page, so that there is a save state to tell. */
  keeps: boolean;
  /** Takes over the writing. `ahead` is how far the server's clock is ahead of the browser's. */
  open: () => Promise<{ status: number; opening: Opening; ahead: number } | null>;
  save: (answer: PendingAnswer) => Promise<SendOutcome>;
  /** Null where no one has to be told that the page lives. */
  pulse: ((epoch: number) => Promise<Pulse | null>) | null;
  /** Opens a question that has a time of its own. */
  show: (slotId: string) => Promise<OpenedQuestion | null>;
  /** Tells what happens to the attempt as it happens; null where nothing does. Returns how to stop. */
  watch: ((epoch: number, see: (pulse: Pulse) => void) => () => void) | null;
  /** Goes on to a page, where the way is onward only. @returns whether the server has noted it */
  onward: (page: number) => Promise<boolean>;
  /** Checks a question before the hand-in, or takes a missed one again. */
  check: (slotId: string) => Promise<CheckAnswer>;
  again: (slotId: string) => Promise<CheckAnswer>;
  /** Reports that something is wrong with a question; null where nobody would read it. @returns what went wrong */
  report: ((slotId: string, text: string) => Promise<string | null>) | null;
  /**
   * @param answers all of them where they were held until now
   * @param inView how long each question stood alone in view, in milliseconds
   */
  handIn: (answers: { slotId: string; value: unknown }[], inView: Record<string, number>) => Promise<HandedIn>;
  files: (slotId: string, link: FileHandling['link']) => FileHandling;
};

async function askChecked(address: string, slotId: string): Promise<CheckAnswer> {
  const answer = await ask<CheckedQuestion & { problems?: { message: string }[] }>(address, { slotId });
  if (answer?.status === 200) return { ok: true, checked: answer.body };
  return { ok: false, message: (answer && answer.status < 500 && answer.body.problems?.[0]?.message) || null };
}

/** The port of a running attempt. */
export function attemptPort(attemptId: string): TakingPort {
  const base = `/api/attempts/${attemptId}`;
  return {
    key: attemptId,
    keeps: true,
    open: async () => {
      const started = takeHanded(attemptId);
      if (started) return { status: 200, ...started };
      const answer = await ask<Opening>(`${base}/open`, null);
      return answer && { status: answer.status, opening: answer.body, ahead: answer.body.now - Date.now() };
    },
    save: async (answer) => outcomeOf((await ask(`${base}/save`, answer))?.status),
    pulse: async (epoch) => {
      const answer = await ask<Pulse>(`${base}/pulse`, { epoch });
      return answer?.status === 200 ? answer.body : null;
    },
    show: async (slotId) => {
      const answer = await ask<OpenedQuestion>(`${base}/show`, { slotId });
      return answer?.status === 200 ? answer.body : null;
    },
    watch: (epoch, see) => {
      const source = new EventSource(`${base}/live?epoch=${epoch}`);
      source.onmessage = (event) => see(JSON.parse(String(event.data)) as Pulse);
      return () => source.close();
    },
    onward: async (page) => (await ask(`${base}/onward`, { page }))?.status === 200,
    report: async (slotId, text) => {
      const answer = await ask<{ problems?: { message: string }[] }>(`${base}/report`, { slotId, text });
      if (answer?.status === 200) return null;
      return answer?.body.problems?.[0]?.message ?? 'The server could not be reached. Try again.';
    },
    check: (slotId) => askChecked(`${base}/check`, slotId),
    again: (slotId) => askChecked(`${base}/again`, slotId),
    handIn: async (answers, inView) => {
      const answer = await ask<{ problems?: { message: string }[] }>(`${base}/hand-in`, {
        ...(answers.length ? { answers } : { inView }),
      });
      if (answer?.status === 200) return { ok: true };
      return { ok: false, message: (answer && answer.status < 500 && answer.body.problems?.[0]?.message) || null };
    },
    files: (slotId, link) => ({
      send: async (file) => {
        try {
          const query = new URLSearchParams({ slot: slotId, name: file.name });
          const answer = await fetch(`${base}/files?${query}`, { method: 'POST', body: file });
          const body = (await answer.json()) as { id?: string; problems?: { message: string }[] };
          if (answer.ok && body.id) return { ok: true, id: body.id };
          return { ok: false, message: body.problems?.[0]?.message ?? 'The file could not be taken.' };
        } catch {
          return { ok: false, message: 'The server could not be reached: the file has not been sent. Try again.' };
        }
      },
      link,
    }),
  };
}
