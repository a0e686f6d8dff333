import { clockText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { PageState } from './attemptPage';

type Props = {
  state: Pick<PageState, 'keeping' | 'superseded' | 'standing' | 'timeZone'>;
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

function inWords({ keeping, superseded, timeZone }: Props['state'], begun: boolean): { text: string; ink: string } {
  const kept = (waiting: number) => counted(waiting, 'answer is', 'answers are');
  switch (keeping.kind) {
    case 'opening':
      return { text: 'Fetching your answers …', ink: 'text-ink-2' };
    case 'saved':
      if (superseded) return { text: 'Opened in another window', ink: 'text-brick' };
      return {
        text:
          keeping.at === null
            ? begun
              ? 'Every answer is saved'
              : 'Answers are saved as you give them'
            : `Saved ${clockText(keeping.at, timeZone)}`,
        ink: 'text-pine',
      };
    case 'saving':
      return { text: 'Saving …', ink: 'text-ink-2' };
    case 'held':
      return { text: 'Kept in this browser only, until you hand in', ink: 'text-saffron' };
    case 'aside':
      return { text: `An answer was not taken, and is kept aside. ${keeping.said}`, ink: 'text-brick' };
    case 'offline':
      return { text: `No connection. ${kept(keeping.waiting)} kept here and will be sent.`, ink: 'text-saffron' };
    case 'elsewhere':
      return { text: `${keeping.said} ${kept(keeping.waiting)} kept here.`, ink: 'text-brick' };
    case 'signed-out':
      return {
        text: `You are signed out. Sign in again in another tab; ${kept(keeping.waiting)} kept here and will be sent.`,
        ink: 'text-brick',
      };
  }
}
