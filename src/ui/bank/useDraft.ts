'use client';
import { useEffect, useRef } from 'react';
import type { BankCommands } from './model';

type Kept<Fields> = { edit: number; at: number; fields: Fields };

/** How long a save waits for a draft that is under way, in milliseconds. */
const longestWait = 3_000;

/**
 * Keeps what is typed: at once in this browser, and after a short pause on the server, where any browser of its author
 * finds it. The browser's copy bridges a lost connection.
 */
export function useDraft<Fields extends Record<string, unknown>>(
  subject: string,
  commands: Pick<BankCommands, 'keepDraft' | 'giveUpDraft'>,
  onKept: (where: 'server' | 'browser') => void,
) {
  const key = `wuzzen-draft/${subject}`;
  const waiting = useRef<{ timer: ReturnType<typeof setTimeout>; send: () => void } | null>(null);
  /** What is under way to the server. */
  const sending = useRef<Promise<void>>(Promise.resolve());
  const kept = useRef(onKept);
  kept.current = onKept;

  useEffect(() => {
    const sendNow = () => {
      if (document.visibilityState !== 'hidden' || !waiting.current) return;
      clearTimeout(waiting.current.timer);
      waiting.current.send();
    };
    document.addEventListener('visibilitychange', sendNow);
    return () => document.removeEventListener('visibilitychange', sendNow);
  }, []);

  return {
    /** The newer of the browser's copy and the server's. */
    newest: (
      onServer: { edit: number; fields: Record<string, unknown>; savedAt: number } | null,
    ): Kept<Fields> | null => {
      const here = read<Fields>(key);
      const there = onServer && { edit: onServer.edit, at: onServer.savedAt, fields: onServer.fields as Fields };
      return here && (!there || here.at > there.at) ? here : there;
    },
    keep: (edit: number, fields: Fields) => {
      write(key, { edit, at: Date.now(), fields });
      if (waiting.current) clearTimeout(waiting.current.timer);
      const send = () => {
        waiting.current = null;
        sending.current = commands.keepDraft({ subject, edit, fields: { ...fields } }).then(
          (answer) => kept.current(answer.ok ? 'server' : 'browser'),
          () => kept.current('browser'),
        );
      };
      waiting.current = { timer: setTimeout(send, 700), send };
    },
    /**
     * Nothing more of it is sent, and what is under way arrives first: a draft that came after the save would be brought
     * back as if it had not been saved. Whoever saves waits for it a moment at most: it may never be answered. The browser's
     * copy stays until it is forgotten.
     */
    quiet: (): Promise<void> => {
      if (waiting.current) clearTimeout(waiting.current.timer);
      waiting.current = null;
      return Promise.race([sending.current, new Promise<void>((resolve) => setTimeout(resolve, longestWait))]);
    },
    /** It has been saved, or is not wanted: nothing of it stays. */
    forget: (alsoOnServer: boolean) => {
      if (waiting.current) clearTimeout(waiting.current.timer);
      waiting.current = null;
      drop(key);
      if (alsoOnServer) void commands.giveUpDraft(subject).catch(() => undefined);
    },
  };
}

function read<Fields>(key: string): Kept<Fields> | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as Kept<Fields> | null;
  } catch {
    return null;
  }
}

function write(key: string, value: unknown): void {
  try {
    localStorage.setItem(key, JSON.stringify(value));
  } catch {
    // Without room in the browser's store the server keeps it, and the sheet itself still holds what is typed.
  }
}

function drop(key: string): void {
  try {
    localStorage.removeItem(key);
  } catch {
    // Nothing was kept, so nothing has to go.
  }
}
