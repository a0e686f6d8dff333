'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { AnswerKeeper, type KeeperState } from './answerKeeper';
import type { Answer, Paper } from './opening';
import type { HandedIn, TakingPort } from './takingPort';

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
  const [ahead, setAhead] = useState(0);
  const keeper = useRef<AnswerKeeper | null>(null);
  const held = useRef(answers);
  held.current = answers;

  useEffect(() => {
    let gone = false;
    let epoch = 0;
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
      setDeadline(opening.deadline);
      const own = new AnswerKeeper({
        attemptId: port.key,
        epoch,
        send: port.save,
        store: port.keeps && typeof localStorage !== 'undefined' ? localStorage : null,
        onState: (next) => !gone && setState(next),
        later: (call, pause) => setTimeout(call, pause),
        now: () => Date.now(),
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
    };
    void open();

    const { pulse } = port;
    const beat = async () => {
      if (epoch === 0 || !pulse) return;
      const answer = await pulse(epoch);
      if (gone || !answer) return;
      setAhead(answer.now - Date.now());
      setDeadline(answer.deadline);
      if (answer.state === 'ended') setState({ kind: 'ended' });
      else if (answer.superseded) setState({ kind: 'superseded' });
      else keeper.current?.hurry();
    };
    const timer = setInterval(() => void beat(), pulseEvery);
    const back = () => void beat();
    window.addEventListener('online', back);
    document.addEventListener('visibilitychange', back);
    return () => {
      gone = true;
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

  return { paper, answers, state, deadline, ahead, change, show, handIn };
}
