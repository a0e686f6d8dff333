import type { Result } from '@/core/base/result';
import type { Opening } from './opening';
import type { OpenedQuestion, TakingPort } from './takingPort';

type Commands<Outcome> = {
  open: () => Promise<Result<Opening>>;
  /** Opens a question that has a time of its own. */
  show?: (slotId: string) => Promise<Result<OpenedQuestion>>;
  score: (answers: { slotId: string; value: unknown }[]) => Promise<Result<Outcome>>;
};

/**
 * The port of an exam that leaves no trace: what is answered stays on the page, and only looking at the outcome brings it
 * to the server, which keeps nothing.
 *
 * @param noFiles what is said instead of taking a file
 */
export function pagePort<Outcome>(
  key: string,
  { open, show, score }: Commands<Outcome>,
  noFiles: string,
  onOutcome: (outcome: Outcome) => void,
): TakingPort {
  const given = new Map<string, unknown>();
  return {
    key,
    keeps: false,
    open: async () => {
      const answer = await open().catch(() => null);
      if (!answer) return null;
      return answer.ok ? { status: 200, opening: answer.value } : { status: 410, opening: {} as Opening };
    },
    save: async ({ slotId, value }) => {
      given.set(slotId, value);
      return { outcome: 'saved' };
    },
    pulse: null,
    watch: null,
    show: async (slotId) => {
      const answer = await show?.(slotId).catch(() => null);
      return answer?.ok ? answer.value : null;
    },
    onward: async () => ({ ok: true }),
    check: async () => ({ ok: false, message: null }),
    again: async () => ({ ok: false, message: null }),
    report: null,
    handIn: async () => {
      const answer = await score([...given].map(([slotId, value]) => ({ slotId, value }))).catch(() => null);
      if (answer?.ok) {
        onOutcome(answer.value);
        return { ok: true };
      }
      return { ok: false, message: answer?.problems[0]?.message ?? null };
    },
    files: (_, link) => ({ send: async () => ({ ok: false, message: noFiles }), link }),
  };
}
