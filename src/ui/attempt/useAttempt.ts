'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { AnswerKeeper, type KeeperState } from './answerKeeper';
import { type Answer, type Opening, type Paper, takeHanded } from './opening';
import { ask, outcomeOf } from './requests';

type Pulse = { state: 'running' | 'ended'; superseded: boolean; deadline: number | null; now: number };

const pulseEvery = 20_000;
const blank: Answer = { value: null, comeBack: false };

/**
 * The running attempt behind a taking page: takes the next writer epoch, keeps and sends answers, and holds the deadline
 * by the server's clock.
 */
export function useAttempt(attemptId: string) {
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
    const base = `/api/attempts/${attemptId}`;
    const open = async (): Promise<void> => {
      const started = takeHanded(attemptId);
      const answer = started ? null : await ask<Opening>(`${base}/open`, null);
      if (gone) return;
      if (!started && (!answer || answer.status >= 500)) {
        setTimeout(() => void open(), 1_500);
        return;
      }
      if (answer && answer.status !== 200) {
        setState(answer.status === 401 ? { kind: 'signed-out', waiting: 0 } : { kind: 'ended' });
        return;
      }
      const opening = started?.opening ?? (answer as { body: Opening }).body;
      epoch = opening.epoch;
      setAhead(started?.ahead ?? opening.now - Date.now());
      setDeadline(opening.deadline);
      const own = new AnswerKeeper({
        attemptId,
        epoch,
        send: async (pending) => outcomeOf((await ask(`${base}/save`, pending))?.status),
        store: typeof localStorage === 'undefined' ? null : localStorage,
        onState: (next) => !gone && setState(next),
        later: (call, pause) => setTimeout(call, pause),
        now: () => Date.now(),
      });
      setPaper({ instructions: opening.instructions, slots: opening.slots, passages: opening.passages });
      setState({ kind: 'saved', at: null });
      const recovered = own.recover();
      setAnswers(
        Object.fromEntries(
          [...opening.answers, ...recovered].map(({ slotId, value, comeBack }) => [slotId, { value, comeBack }]),
        ),
      );
      keeper.current = own;
    };
    void open();

    const beat = async () => {
      if (epoch === 0) return;
      const answer = await ask<Pulse>(`${base}/pulse`, { epoch });
      if (gone || answer?.status !== 200) return;
      setAhead(answer.body.now - Date.now());
      setDeadline(answer.body.deadline);
      if (answer.body.state === 'ended') setState({ kind: 'ended' });
      else if (answer.body.superseded) setState({ kind: 'superseded' });
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
  }, [attemptId]);

  const change = useCallback((slotId: string, part: Partial<Answer>, pause?: number) => {
    const next = { ...(held.current[slotId] ?? blank), ...part };
    held.current = { ...held.current, [slotId]: next };
    setAnswers(held.current);
    keeper.current?.keep(slotId, next.value, next.comeBack, pause);
  }, []);

  /** Sends what waits, then hands in. @returns whether the server has taken the hand-in */
  const handIn = useCallback(async (): Promise<boolean> => {
    await keeper.current?.flush();
    const answer = await ask(`/api/attempts/${attemptId}/hand-in`, null);
    return answer?.status === 200;
  }, [attemptId]);

  return { paper, answers, state, deadline, ahead, change, handIn };
}
