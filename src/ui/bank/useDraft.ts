'use client';
import { useEffect, useRef } from 'react';
import { typedTitle } from '@/core/question/content';
import { useKeeping } from '../keep/KeepingFor';
import type { BankCommands } from './model';
import type { UnansweredSave } from './savingQuestion';

type Kept<Fields> = { edit: number; at: number; fields: Fields; unanswered: UnansweredSave | null };

/** How long a save waits for a draft that is under way, in milliseconds. */
const longestWait = 3_000;

/**
 * Keeps what is typed: at once in this browser's journal, and after a short pause on the server, where any browser of its
 * author finds it. The browser's copy bridges a lost connection.
 */
export function useDraft<Fields extends Record<string, unknown>>(
  bankId: string,
  subject: string,
  commands: Pick<BankCommands, 'keepDraft' | 'giveUpDraft'>,
  onKept: (where: 'server' | 'browser') => void,
) {
  const object = `question/${bankId}/${subject}`;
  const journal = useKeeping()?.journal ?? null;
  /** What this page has kept: a browser may keep nothing. */
  const here = useRef<Kept<Fields> | null>(null);
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

  const jot = (edit: number, fields: Fields, unanswered: UnansweredSave | null) => {
    here.current = { edit, at: Date.now(), fields, unanswered };
    journal?.write(object, {
      title: typedTitle(fields),
      href: location.pathname + location.search,
      base: { edit, value: null },
      value: fields,
      unanswered: unanswered && { once: unanswered.once, edit: unanswered.edit, value: unanswered },
    });
  };
  return {
    /** The newer of the browser's copy and the server's. */
    newest: (
      onServer: { edit: number; fields: Record<string, unknown>; savedAt: number } | null,
    ): Kept<Fields> | null => {
      const entry = journal?.read(object);
      const unanswered = (entry?.unanswered?.value ?? null) as UnansweredSave | null;
      const own = entry
        ? { edit: entry.base.edit, at: entry.at, fields: entry.value as Fields, unanswered }
        : here.current;
      const there = onServer && {
        edit: onServer.edit,
        at: onServer.savedAt,
        fields: onServer.fields as Fields,
        unanswered,
      };
      return own && (!there || own.at > there.at) ? own : there;
    },
    /** Writes down in this browser what is typed, and a save of it that is under way; nothing is sent. */
    jot,
    /** @param unanswered a save that was sent and never answered */
    keep: (edit: number, fields: Fields, unanswered: UnansweredSave | null = null) => {
      jot(edit, fields, unanswered);
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
      here.current = null;
      journal?.forget(object);
      if (alsoOnServer) void commands.giveUpDraft(subject).catch(() => undefined);
    },
  };
}
