'use client';
import { useEffect, useRef, useState } from 'react';
import { useKeeping } from './KeepingFor';
import { Keeper, type KeepState, type Setting, type Told } from './keeper';
import { newOnce } from './newOnce';

/** What is kept, and how it is sent; the browser's part is the hook's. */
type Kept<T> = Pick<Setting<T>, 'object' | 'title' | 'stored' | 'send' | 'fetch' | 'pause'>;

/** One channel among the windows of a person in this browser. */
function channelOf(userId: string, hear: (told: Told) => void): { tell: (told: Told) => void; close: () => void } {
  if (typeof BroadcastChannel === 'undefined') return { tell: () => undefined, close: () => undefined };
  const channel = new BroadcastChannel(`wuzzen-kept/${userId}`);
  channel.onmessage = (event) => hear(event.data as Told);
  return { tell: (told) => channel.postMessage(told), close: () => channel.close() };
}

/**
 * Keeps what is typed into one object on this page until the server has it: see {@link Keeper}. What waits when the page is
 * left is sent then, and stays in the journal until it has arrived.
 */
export function useKept<T>(setting: Kept<T>) {
  const keeping = useKeeping();
  const latest = useRef(setting);
  latest.current = setting;
  const channel = useRef<ReturnType<typeof channelOf> | null>(null);
  const [shown, show] = useState<{ value: T; state: KeepState }>(() => ({
    value: setting.stored.value,
    state: { kind: 'kept' },
  }));
  /** Raised when what is shown came from elsewhere, so that text editors begin anew with it. */
  const [round, setRound] = useState(0);
  const [broughtBack, setBroughtBack] = useState(false);
  const [keeper] = useState(
    () =>
      new Keeper<T>({
        object: setting.object,
        title: setting.title,
        href: typeof location === 'undefined' ? '' : location.pathname,
        stored: setting.stored,
        pause: setting.pause,
        send: (...sent) => latest.current.send(...sent),
        fetch: () => latest.current.fetch(),
        later: (call, milliseconds) => {
          const timer = setTimeout(call, milliseconds);
          return () => clearTimeout(timer);
        },
        newOnce,
        tell: (told) => channel.current?.tell(told),
        onChange: (value, state) => show({ value, state }),
        onJoined: () => setRound((before) => before + 1),
      }),
  );
  useEffect(() => {
    channel.current = keeping
      ? channelOf(keeping.userId, ({ object, ...told }) => {
          if (object === latest.current.object) keeper.hear(told);
        })
      : null;
    if (keeper.begin(keeping?.journal ?? null)) setBroughtBack(true);
    const hurry = () => keeper.hurry();
    const leave = () => {
      if (document.visibilityState === 'hidden' && latest.current.pause !== null) void keeper.save();
      else hurry();
    };
    window.addEventListener('online', hurry);
    window.addEventListener('focus', hurry);
    document.addEventListener('visibilitychange', leave);
    return () => {
      window.removeEventListener('online', hurry);
      window.removeEventListener('focus', hurry);
      document.removeEventListener('visibilitychange', leave);
      // Whoever leaves within the pause leaves nothing behind.
      if (latest.current.pause !== null && keeper.isUnkept) void keeper.save();
      keeper.close();
      channel.current?.close();
      channel.current = null;
    };
  }, [keeper, keeping]);
  return { ...shown, round, broughtBack, keeper };
}
