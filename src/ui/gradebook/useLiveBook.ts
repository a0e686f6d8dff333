'use client';
import { useRouter } from 'next/navigation';
import { useCallback, useRef, useState } from 'react';
import type { BookChange, Gradebook } from '@/server/gradebook/gradebook';
import type { Commands } from '../kit/commands';

/** A gradebook with the rows that have been looked at since; the others stay the same objects, and are not drawn again. */
export function withChange(book: Gradebook, change: BookChange): Gradebook {
  const rows = new Map(change.rows.map((row) => [row.userId, row]));
  return {
    ...book,
    rows: book.rows.map((row) => rows.get(row.userId) ?? row),
    columns: book.columns.map((column, i) => ({ ...column, statistics: change.columns[i]?.statistics ?? null })),
    total: change.total,
    lastEntry: change.lastEntry,
  };
}

/**
 * A gradebook that is looked at while scores are entered into it: after each only the rows that are other than they were come
 * from the server, not the whole page.
 *
 * @returns the gradebook as it is now, and what looks again: some students can be named from whom scores were taken back
 */
export function useLiveBook(page: Gradebook, since: Commands<'gradebookSince', 'courseId'>['gradebookSince']) {
  const router = useRouter();
  const [live, setLive] = useState({ page, book: page });
  const book = live.page === page ? live.book : page;
  const now = useRef({ page, book });
  now.current = { page, book };
  const look = useCallback(
    async (userIds: readonly string[]): Promise<boolean> => {
      const { lastEntry, columns } = now.current.book;
      const answer = await since({ lastEntry, userIds: [...userIds] }).catch(() => null);
      // Without a network the page stays as it is: to ask for it anew would lead to a page that cannot come.
      if (answer === null) return false;
      const isSame =
        answer.ok &&
        answer.value.columns.length === columns.length &&
        answer.value.columns.every((column, i) => column.id === columns[i]?.id);
      if (!answer.ok || !isSame) {
        router.refresh();
        return true;
      }
      const { page, book } = now.current;
      setLive({ page, book: withChange(book, answer.value) });
      return true;
    },
    [since, router],
  );
  return { book, look };
}
