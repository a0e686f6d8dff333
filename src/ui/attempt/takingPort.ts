import type { ShownQuestion } from '@/core/question/student';
import type { CheckedQuestion } from '@/server/attempt/tries';
import type { FileHandling } from '../question/playing';
import type { PendingAnswer, SendReply } from './answerKeeper';
import { type Opening, type Pulse, takeHanded } from './opening';
import { ask, type Net, saidAgainst, sendAnswer } from './requests';

/** Done; or not, with what the server says against it, null where it could not be reached. */
export type HandedIn = { ok: true } | { ok: false; message: string | null };

/** What a hand-in brings. */
export type HandInput = {
  /** All answers, where they were held until now. */
  answers: { slotId: string; value: unknown }[];
  /** How long each question stood alone in view, in milliseconds. */
  inView: Record<string, number>;
  /** Whether the page does it by itself, because the time is over. */
  byClock: boolean;
  /** When its student pressed it, by this browser's idea of the server's clock. */
  pressedAt: number | null;
  epoch: number;
};
export type OpenedQuestion = { view: ShownQuestion; until: number | null };

export type CheckAnswer = { ok: true; checked: CheckedQuestion } | { ok: false; message: string | null };

/** What a taking page needs of the world outside: a running attempt on the server, or a trial that leaves no trace. */
export type TakingPort = {
  /** Names what the browser keeps of it. */
  key: string;
  /** Whether answers are kept anywhere beyond the page, so that there is a save state to tell. */
  keeps: boolean;
  /** Takes over the writing. `heardAt`: when that was said, by the browser's clock, where it was not said just now; `said`: what the server says against it. */
  open: () => Promise<{ status: number; opening: Opening; heardAt?: number; said?: string | null } | null>;
  save: (answer: PendingAnswer) => Promise<SendReply>;
  /** Null where no one has to be told that the page lives. */
  pulse: ((epoch: number) => Promise<Pulse | null>) | null;
  /** Opens a question that has a time of its own. */
  show: (slotId: string) => Promise<OpenedQuestion | null>;
  /** Tells what happens to the attempt as it happens; null where nothing does. Returns how to stop. */
  watch: ((epoch: number, see: (pulse: Pulse) => void) => () => void) | null;
  /** Goes on to a page, where the way is onward only. */
  onward: (page: number) => Promise<HandedIn>;
  /** Checks a question before the hand-in, or takes a missed one again. */
  check: (slotId: string) => Promise<CheckAnswer>;
  again: (slotId: string) => Promise<CheckAnswer>;
  /** Reports that something is wrong with a question; null where nobody would read it. @returns what went wrong */
  report: ((slotId: string, text: string) => Promise<string | null>) | null;
  handIn: (handed: HandInput) => Promise<HandedIn>;
  files: (slotId: string, link: FileHandling['link']) => FileHandling;
};

async function askChecked(address: string, slotId: string, net?: Net): Promise<CheckAnswer> {
  const answer = await ask<CheckedQuestion & { problems?: { message: string }[] }>(address, { slotId }, net);
  if (answer?.status === 200) return { ok: true, checked: answer.body };
  return { ok: false, message: saidAgainst(answer) };
}

/**
 * The port of a running attempt.
 *
 * @param net what carries its requests; the browser's network unless a test names another
 */
export function attemptPort(attemptId: string, net?: Net): TakingPort {
  const base = `/api/attempts/${attemptId}`;
  return {
    key: attemptId,
    keeps: true,
    open: async () => {
      const started = takeHanded(attemptId);
      if (started) return { status: 200, ...started };
      const answer = await ask<Opening & { problems?: { message: string }[] }>(`${base}/open`, null, net);
      return answer && { status: answer.status, opening: answer.body, said: saidAgainst(answer) };
    },
    save: (answer) => sendAnswer(attemptId, answer, net),
    pulse: async (epoch) => {
      const answer = await ask<Pulse>(`${base}/pulse`, { epoch }, net);
      return answer?.status === 200 ? answer.body : null;
    },
    show: async (slotId) => {
      const answer = await ask<OpenedQuestion>(`${base}/show`, { slotId }, net);
      return answer?.status === 200 ? answer.body : null;
    },
    watch: (epoch, see) => {
      const source = new EventSource(`${base}/live?epoch=${epoch}`);
      source.onmessage = (event) => see(JSON.parse(String(event.data)) as Pulse);
      return () => source.close();
    },
    onward: async (page) => {
      const answer = await ask<{ problems?: { message: string }[] }>(`${base}/onward`, { page }, net);
      return answer?.status === 200 ? { ok: true } : { ok: false, message: saidAgainst(answer) };
    },
    report: async (slotId, text) => {
      const answer = await ask<{ problems?: { message: string }[] }>(`${base}/report`, { slotId, text }, net);
      if (answer?.status === 200) return null;
      return answer?.body.problems?.[0]?.message ?? 'The server could not be reached. Try again.';
    },
    check: (slotId) => askChecked(`${base}/check`, slotId, net),
    again: (slotId) => askChecked(`${base}/again`, slotId, net),
    handIn: async ({ answers, inView, ...how }) => {
      const body = { ...how, ...(answers.length ? { answers } : { inView }) };
      const answer = await ask<{ problems?: { message: string }[] }>(`${base}/hand-in`, body, net);
      // Signed out is no word against it: it is carried out once somebody is signed in again.
      if (answer?.status === 200) return { ok: true };
      return { ok: false, message: answer?.status === 401 ? null : saidAgainst(answer) };
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
