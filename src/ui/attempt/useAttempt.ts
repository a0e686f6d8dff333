'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { AnswerKeeper, type KeeperState } from './answerKeeper';
import type { Answer, Notice, Paper, Pulse } from './opening';
import type { CheckAnswer, HandedIn, TakingPort } from './takingPort';

const pulseEvery = 20_000;
const blank: Answer = { value: null, comeBack: false };

/**
 * What runs behind a taking page: takes the next writer epoch, keeps and sends answers, and holds the deadline by the
 * server's clock.
 *
 * @param port must stay the same while the page is open
 */
export function useAttempt(port: TakingPort) {
  const [paper, setPaper] = useState<Paper | null>(null);
  const [answers, setAnswers] = useState<Record<string, Answer>>({});
  const [state, setState] = useState<KeeperState | { kind: 'opening' }>({ kind: 'opening' });
  const [deadline, setDeadline] = useState<number | null>(null);
  const [handInUntil, setHandInUntil] = useState<number | null>(null);
  const [notices, setNotices] = useState<Notice[]>([]);
  const [ahead, setAhead] = useState(0);
  const clock = useRef(0);
  const keeper = useRef<AnswerKeeper | null>(null);
  const held = useRef(answers);
  held.current = answers;

  useEffect(() => {
    let gone = false;
    let epoch = 0;
    let stopWatching: (() => void) | undefined;
    /** What the server says about the attempt, asked or unasked. */
    const told = (pulse: Pulse): void => {
      if (gone) return;
      clock.current = pulse.now - Date.now();
      setAhead(clock.current);
      setDeadline(pulse.deadline);
      setHandInUntil(pulse.handInUntil);
      setNotices(pulse.notices);
      if (pulse.state === 'running' && !pulse.superseded) return;
      // What still waits here is sent first: the server keeps it aside, and nothing is lost. Where it cannot be sent now, the
      // keeper goes on trying, and hears from the server itself that the attempt has ended.
      const kind = pulse.state === 'ended' ? 'ended' : 'superseded';
      void (keeper.current?.flush() ?? Promise.resolve(true)).then((sent) => sent && !gone && setState({ kind }));
    };
    const open = async (): Promise<void> => {
      const answer = await port.open();
      if (gone) return;
      if (!answer || answer.status >= 500) {
        setTimeout(() => void open(), 1_500);
        return;
      }
      if (answer.status !== 200) {
        setState(answer.status === 401 ? { kind: 'signed-out', waiting: 0 } : { kind: 'ended' });
        return;
      }
      const { opening } = answer;
      epoch = opening.epoch;
      setAhead(answer.ahead);
      clock.current = answer.ahead;
      setDeadline(opening.deadline);
      setHandInUntil(opening.handInUntil);
      setNotices(opening.notices);
      const own = new AnswerKeeper({
        attemptId: port.key,
        epoch,
        send: port.save,
        store: port.keeps && typeof localStorage !== 'undefined' ? localStorage : null,
        onState: (next) => !gone && setState(next),
        later: (call, pause) => setTimeout(call, pause),
        now: () => Date.now() + clock.current,
        hold: opening.anonymous,
      });
      setPaper(opening);
      setState(opening.anonymous ? { kind: 'held' } : { kind: 'saved', at: null });
      const recovered = own.recover();
      setAnswers(
        Object.fromEntries(
          [...opening.answers, ...recovered].map(({ slotId, value, comeBack }) => [slotId, { value, comeBack }]),
        ),
      );
      keeper.current = own;
      stopWatching = port.watch?.(epoch, told);
    };
    void open();

    const { pulse } = port;
    const beat = async () => {
      if (epoch === 0 || !pulse) return;
      const answer = await pulse(epoch);
      if (gone || !answer) return;
      told(answer);
      if (answer.state === 'running' && !answer.superseded) keeper.current?.hurry();
    };
    const timer = setInterval(() => void beat(), pulseEvery);
    const back = () => void beat();
    window.addEventListener('online', back);
    document.addEventListener('visibilitychange', back);
    return () => {
      gone = true;
      stopWatching?.();
      clearInterval(timer);
      window.removeEventListener('online', back);
      document.removeEventListener('visibilitychange', back);
    };
  }, [port]);

  const change = useCallback((slotId: string, part: Partial<Answer>, pause?: number) => {
    const next = { ...(held.current[slotId] ?? blank), ...part };
    held.current = { ...held.current, [slotId]: next };
    setAnswers(held.current);
    keeper.current?.keep(slotId, next.value, next.comeBack, pause);
  }, []);

  /** Opens a question that has a time of its own. @returns whether the server has answered */
  const show = useCallback(
    async (slotId: string): Promise<boolean> => {
      const opened = await port.show(slotId);
      if (opened)
        setPaper(
          (before) =>
            before && {
              ...before,
              slots: before.slots.map((slot) => (slot.slotId === slotId ? { ...slot, ...opened } : slot)),
            },
        );
      return opened !== null;
    },
    [port],
  );

  /** Notes what the server says of a question that was checked. */
  const note = useCallback((slotId: string, answer: CheckAnswer): string | null => {
    if (!answer.ok) return answer.message ?? 'The server could not be reached. Try again.';
    setPaper(
      (before) =>
        before && {
          ...before,
          slots: before.slots.map((slot) => (slot.slotId === slotId ? { ...slot, checked: answer.checked } : slot)),
        },
    );
    return null;
  }, []);

  /** Checks a question as it stands here. @returns what went wrong, in words */
  const check = useCallback(
    async (slotId: string): Promise<string | null> => {
      if (!(await keeper.current?.flush())) return 'Your answer could not be sent yet. Try again.';
      return note(slotId, await port.check(slotId));
    },
    [port, note],
  );
  const again = useCallback(async (slotId: string) => note(slotId, await port.again(slotId)), [port, note]);

  /** Goes on to a page from which there is no way back. @returns whether the server has noted it */
  const onward = useCallback(
    async (page: number): Promise<boolean> => {
      if (!(await keeper.current?.flush())) return false;
      const noted = await port.onward(page);
      if (noted) setPaper((before) => before && { ...before, reached: Math.max(before.reached, page) });
      return noted;
    },
    [port],
  );

  /** Sends what waits, then hands in, with how long each question was in view. */
  const handIn = useCallback(
    async (inView: Record<string, number>): Promise<HandedIn> => {
      await keeper.current?.flush();
      const handed = await port.handIn(keeper.current?.held() ?? [], inView);
      if (handed.ok) keeper.current?.forget();
      return handed;
    },
    [port],
  );

  return { paper, answers, state, deadline, handInUntil, notices, ahead, change, show, check, again, onward, handIn };
}
