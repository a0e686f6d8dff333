import { AnswerKeeper, type KeeperState, type PendingAnswer, type SendReply } from '../attempt/answerKeeper';
import { type Net, sendAnswer } from '../attempt/requests';
import type { Store } from '../kit/browserStore';

/** A question in one of its votes, as an answer to it is kept. */
export const answerKey = (slotId: string, vote: number): string => `${slotId}#${vote}`;

/** What was pressed goes at once; what is typed after so long: a question may be closed at any moment. */
const pauseWhileTyping = 200;

type Setting = {
  attemptId: string;
  epoch: number;
  store: Store | null;
  onState: (state: KeeperState) => void;
  onAside: () => void;
  clock: () => number;
  net?: Net;
};

/**
 * Keeps the answers of a led round as those of every attempt are kept: until the server has confirmed them. Each belongs to
 * the vote for which it was given, however late it is sent.
 */
export function ledKeeper({ attemptId, epoch, store, onState, onAside, clock, net }: Setting) {
  const keeper = new AnswerKeeper({
    attemptId,
    epoch,
    store,
    onState,
    onAside,
    now: clock,
    later: (call, pause) => setTimeout(call, pause),
    send: ({ slotId, ...answer }: PendingAnswer): Promise<SendReply> => {
      const [slot = '', vote = '1'] = slotId.split('#');
      return sendAnswer(attemptId, { ...answer, slotId: slot, vote: Number(vote) }, net);
    },
  });
  return {
    recover: () => keeper.recover(),
    hurry: () => keeper.hurry(),
    stop: () => keeper.stop(),
    keep: (slotId: string, vote: number, value: unknown, isTyped: boolean) =>
      keeper.keep(answerKey(slotId, vote), value, false, isTyped ? pauseWhileTyping : 0),
  };
}
