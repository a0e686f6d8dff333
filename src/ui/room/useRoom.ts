'use client';
import { useEffect, useRef, useState } from 'react';
import type { Waiting } from '@/core/attempt/waiting';
import type { RoomRow } from '@/server/room/room';
import type { LogLine } from '@/server/room/roomLog';
import type { RoomNews } from '@/server/room/watchRoom';
import { type Line, useStream } from '../kit/useStream';

type LiveRoom = {
  rows: RoomRow[];
  log: LogLine[];
  /** Leaks that nobody has taken upon themselves, in words. */
  leaks: string[];
  /** What waits for a decision. */
  waiting: Waiting;
  /** The server's clock now. */
  now: number;
  /** Whether news arrive; else since when they do not. */
  line: Line;
};

/** Puts news over what is known: rows of the same student are replaced, the order stays. */
export function withNews(rows: readonly RoomRow[], news: readonly RoomRow[]): RoomRow[] {
  const fresh = new Map(news.map((row) => [row.userId, row]));
  const known = rows.map((row) => fresh.get(row.userId) ?? row);
  const before = new Set(rows.map((row) => row.userId));
  return [...known, ...news.filter((row) => !before.has(row.userId))];
}

/**
 * The room as it is now: begins with what the page brought and hears of every change. The browser comes back by itself
 * after a break, and is then told everything anew.
 *
 * @param address of the stream of events
 */
export function useRoom(
  address: string,
  begun: { rows: RoomRow[]; log: LogLine[]; leaks: string[]; waiting: Waiting; now: number },
): LiveRoom {
  const [rows, setRows] = useState(begun.rows);
  const [log, setLog] = useState(begun.log);
  const [leaks, setLeaks] = useState(begun.leaks);
  const [waiting, setWaiting] = useState(begun.waiting);
  /** How far the server's clock is ahead of this browser's. */
  const ahead = useRef(begun.now - Date.now());
  const [now, setNow] = useState(begun.now);
  const line = useStream<RoomNews>(address, (news) => {
    ahead.current = news.now - Date.now();
    setRows((before) => withNews(before, news.rows));
    if (news.log) setLog(news.log);
    if (news.leaks) setLeaks(news.leaks);
    if (news.waiting) setWaiting(news.waiting);
    setNow(news.now);
  });
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now() + ahead.current), 1_000);
    return () => clearInterval(timer);
  }, []);
  return {
    rows,
    log,
    leaks,
    waiting,
    now,
    line: line.kind === 'live' ? line : { ...line, since: line.since + ahead.current },
  };
}
