/** What live pages are told: that something of a sitting is not as it was. What it is now they look up themselves. */
export type News = {
  sittingId: string;
  /**
   * `rules`: deadlines may differ for anyone. `attempt`: one attempt began, ended or got more time. `progress`: somebody
   * answered, or gave a sign of life. `room`: a message, a correction or a note for everyone. `round`: a round goes on, for
   * everyone.
   */
  what: 'rules' | 'attempt' | 'progress' | 'room' | 'round';
  /** Whom it is about; absent where it is about everyone. */
  userId?: string;
};

type Listener = (news: News) => void;

/** On `globalThis`, because the server and the bundled routes are different module graphs of one process. */
const shared = globalThis as typeof globalThis & { wuzzenListeners?: Map<string, Set<Listener>> };
shared.wuzzenListeners ??= new Map();
const listeners = shared.wuzzenListeners;

/** Tells everyone who listens to a sitting. Called after the commit, so that who looks finds what is told of. */
export function tell(news: News): void {
  for (const listener of listeners.get(news.sittingId) ?? []) listener(news);
}

/** Listens to a sitting. @returns how to stop */
export function listen(sittingId: string, listener: Listener): () => void {
  const own = listeners.get(sittingId) ?? new Set();
  listeners.set(sittingId, own);
  own.add(listener);
  return () => {
    own.delete(listener);
    if (own.size === 0) listeners.delete(sittingId);
  };
}
