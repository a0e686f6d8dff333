import { counted } from '@/core/base/words';
import type { KeeperState } from './answerKeeper';

const clock = (at: number) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

type Props = {
  state: KeeperState | { kind: 'opening' };
  /** Whether anything has been answered yet. */
  begun: boolean;
};

/** The save state in words. It says saved only when the server has confirmed every answer. */
export function SaveState({ state, begun }: Props) {
  const { text, ink } = inWords(state, begun);
  return (
    <span role="status" className={`text-sm ${ink}`}>
      {text}
    </span>
  );
}

function inWords(state: Props['state'], begun: boolean): { text: string; ink: string } {
  switch (state.kind) {
    case 'opening':
      return { text: 'Fetching your answers …', ink: 'text-ink-2' };
    case 'saved':
      return {
        text:
          state.at === null
            ? begun
              ? 'Every answer is saved'
              : 'Answers are saved as you give them'
            : `Saved ${clock(state.at)}`,
        ink: 'text-pine',
      };
    case 'saving':
      return { text: 'Saving …', ink: 'text-ink-2' };
    case 'held':
      return { text: 'Kept in this browser only, until you hand in', ink: 'text-saffron' };
    case 'refused':
      return { text: 'An answer was not taken. Load the page again to see what is stored.', ink: 'text-brick' };
    case 'offline':
      return {
        text: `No connection. ${counted(state.waiting, 'answer is', 'answers are')} kept here and will be sent.`,
        ink: 'text-saffron',
      };
    case 'elsewhere':
      return {
        text: `Answers are taken only from the exam’s own network. ${counted(state.waiting, 'answer is', 'answers are')} kept here and will be sent from there.`,
        ink: 'text-brick',
      };
    case 'signed-out':
      return {
        text: 'You are signed out. Sign in again in another tab; your answers are kept here.',
        ink: 'text-brick',
      };
    case 'superseded':
      return { text: 'Opened in another window', ink: 'text-brick' };
    case 'ended':
      return { text: 'Handed in', ink: 'text-ink-2' };
  }
}
