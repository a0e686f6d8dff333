import type { Result } from '@/core/base/result';

const pauses = { first: 1_500, longest: 30_000 };

/** Resolves after so long, or as soon as the connection or the session may be back. */
function untilMaybeBack(milliseconds: number): Promise<void> {
  return new Promise((resolve) => {
    const done = () => {
      clearTimeout(timer);
      window.removeEventListener('online', done);
      window.removeEventListener('focus', done);
      resolve();
    };
    const timer = setTimeout(done, milliseconds);
    window.addEventListener('online', done);
    window.addEventListener('focus', done);
  });
}

/**
 * Sends until it is answered: again by itself when the network or the session is back. It has to carry a name under which it
 * is carried out once.
 *
 * @param onWaiting told when it waits, and when it no longer does
 */
export async function sentUntilAnswered<Value>(
  send: () => Promise<Result<Value>>,
  onWaiting: (isWaiting: boolean) => void,
): Promise<Result<Value>> {
  for (let pause = pauses.first; ; pause = Math.min(pause * 2, pauses.longest)) {
    const answer = await send().catch(() => null);
    const code = answer && !answer.ok ? answer.problems[0]?.code : undefined;
    if (answer && code !== 'busy' && code !== 'signed-out') {
      onWaiting(false);
      return answer;
    }
    onWaiting(true);
    await untilMaybeBack(pause);
  }
}
