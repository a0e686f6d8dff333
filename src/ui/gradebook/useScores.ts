'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { aboveWorth, type PastedScore, pastedScores, readScore } from '@/core/gradebook/typedScores';
import type { Gradebook, GradebookRow } from '@/server/gradebook/gradebook';
import { useWritten } from '../keep/useWritten';
import type { Commands } from '../kit/commands';
import { usePerform } from '../kit/usePerform';

/** A cell that is being typed into: of whom, the place of its column, what stands there, and what speaks against that. */
export type Typing = {
  userId: string;
  column: number;
  text: string;
  problem: string | null;
  /** What the cell showed, rounded, where that is what is changed; null where it is typed over. */
  shown: string | null;
  /** How often it was left and given back. */
  turn: number;
};

/** How a cell that is typed into is left: by a key that enters, by going elsewhere, or without entering anything. */
export type Leaving = 'key' | 'elsewhere' | 'given-up';

/** A score on its way into a cell. */
export type NewScore = { userId: string; columnId: string; points: number | null; text: string };

/** What was entered in one act: its line in the log, the cells, and what is said of it. */
type Act = { auditId: number; keys: readonly string[]; said: string };

/** A score that the server has not said to have: as it was typed, and over which entry. */
type Waiting = { text: string; before: number };

/** What was pasted over several cells, to be looked at before it is entered. */
export type Pasted = { rows: readonly GradebookRow[]; cells: PastedScore[]; outside: number };

export type ScoreCommands = Commands<'enterCells' | 'undoChange', 'courseId'>;

/** The page shows what has changed by looking again at the rows concerned. */
const onlyRows = { readsAnew: false };

const keyOf = (userId: string, columnId: string) => `${userId}/${columnId}`;

/**
 * Scores as they are typed and pasted into the gradebook: each is kept in this browser until the server has it, sent one
 * after another, and can be taken back.
 *
 * @param look looks again at what has changed in the gradebook, and at some students besides; says whether it could
 */
export function useScores(
  book: Gradebook,
  commands: ScoreCommands,
  look: (userIds: readonly string[]) => Promise<boolean>,
) {
  const { columns, rows } = book;
  const { perform, problems, busy } = usePerform();
  const [typing, setTyping] = useState<Typing | null>(null);
  const [pasted, setPasted] = useState<Pasted | null>(null);
  /** What was entered from here, the latest last: its lines in the log, by which it is taken back. */
  const [entered, setEntered] = useState<readonly Act[]>([]);
  const acts = useRef<readonly Act[]>([]);
  const setActs = useCallback((next: readonly Act[]) => {
    acts.current = next;
    setEntered(next);
  }, []);
  /** What has been said since the last score was entered. */
  const [said, setSaid] = useState('');
  /** What the server has and the page does not show yet. */
  const [sent, setSent] = useState<Readonly<Record<string, string>>>({});
  const waiting = useWritten<Readonly<Record<string, Waiting>>>(
    'scores',
    (typed) => {
      const count = Object.keys(typed).length;
      return count ? `${counted(count, 'score')} typed into the gradebook` : null;
    },
    {},
  );
  const byId = useMemo(() => new Map(rows.map((row) => [row.userId, row])), [rows]);
  const now = useRef({ byId, columns });
  now.current = { byId, columns };
  /** The newest entries of cells that were typed into here: the page may not know of them yet. */
  const newest = useRef(new Map<string, number>());
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const underWay = useRef(0);
  /** Students from whom something was taken back since the page looked last. */
  const takenFrom = useRef(new Set<string>());
  /** Does something once what is under way is done; when nothing is any more, the page looks at what has changed. */
  const inTurn = useCallback(
    (act: () => Promise<unknown>) => {
      underWay.current += 1;
      queue.current = queue.current.then(async () => {
        await act().catch(() => null);
        underWay.current -= 1;
        if (underWay.current > 0) return;
        const asked = [...takenFrom.current];
        if (await look(asked)) for (const userId of asked) takenFrom.current.delete(userId);
      });
    },
    [look],
  );
  const { change: keep } = waiting;
  useEffect(() => {
    // What was sent stands in what has been looked at since; so does what was entered though its answer got lost.
    setSent((before) =>
      Object.fromEntries(Object.entries(before).filter(([key]) => (newest.current.get(key) ?? 0) > book.lastEntry)),
    );
    keep((before) => {
      const left = Object.entries(before).filter(([key, one]) => {
        const [userId, columnId] = key.split('/');
        const place = book.columns.findIndex((column) => column.id === columnId);
        const row = book.rows.find((other) => other.userId === userId);
        const score = readScore(one.text);
        const typed = score.kind === 'points' ? Number(roundHalfUp(score.points, book.rules.decimals)) : null;
        return typed !== (row?.points[place] ?? null) || (row?.entered[place] ?? 0) === one.before;
      });
      return left.length === Object.keys(before).length ? before : Object.fromEntries(left);
    });
  }, [book, keep]);
  const send = useCallback(
    (scores: readonly NewScore[], above: boolean) => {
      const entryUnder = ({ userId, columnId }: NewScore): number => {
        const { byId, columns } = now.current;
        const place = columns.findIndex((column) => column.id === columnId);
        const known = newest.current.get(keyOf(userId, columnId)) ?? 0;
        return Math.max(known, byId.get(userId)?.entered[place] ?? 0);
      };
      keep((before) => ({
        ...before,
        ...Object.fromEntries(
          scores.map((one) => [keyOf(one.userId, one.columnId), { text: one.text, before: entryUnder(one) }]),
        ),
      }));
      const what = (): string => {
        const { byId, columns } = now.current;
        const [one] = scores;
        if (scores.length > 1 || !one) return `${counted(scores.length, 'score')} entered.`;
        const title = columns.find((column) => column.id === one.columnId)?.title;
        return `${title} of ${byId.get(one.userId)?.name}: ${one.points === null ? 'emptied' : pointsText(one.points)}.`;
      };
      inTurn(async () => {
        await perform(
          () =>
            commands.enterCells({
              above,
              cells: scores.map((one) => ({
                userId: one.userId,
                columnId: one.columnId,
                points: one.points,
                before: entryUnder(one),
              })),
            }),
          ({ auditId, entryIds }) => {
            const keys = scores.map((one) => keyOf(one.userId, one.columnId));
            for (const [i, key] of keys.entries()) newest.current.set(key, entryIds[i] ?? 0);
            setSent((before) => ({ ...before, ...Object.fromEntries(scores.map((one, i) => [keys[i], one.text])) }));
            keep((before) =>
              Object.fromEntries(
                Object.entries(before).filter(
                  ([key, { text }]) => !scores.some((one, i) => keys[i] === key && one.text === text),
                ),
              ),
            );
            setActs([...acts.current, { auditId, keys, said: what() }]);
            setSaid('');
          },
          onlyRows,
        );
      });
    },
    [commands, inTurn, keep, perform, setActs],
  );
  const begin = useCallback((userId: string, column: number, text: string | null) => {
    const { byId } = now.current;
    const points = byId.get(userId)?.points[column];
    const shown = points == null ? '' : pointsText(points);
    setTyping({ userId, column, text: text ?? shown, problem: null, shown: text === null ? shown : null, turn: 0 });
  }, []);
  const end = useCallback(
    (typed: Typing, text: string, how: Leaving) => {
      setTyping(null);
      const { byId, columns } = now.current;
      const { userId, column: place } = typed;
      const column = columns[place];
      const row = byId.get(userId);
      if (how === 'given-up' || !column || !row) return;
      const score = readScore(text);
      const points = score.kind === 'points' ? score.points : null;
      const above = aboveWorth(points, column.worth);
      const problem = score.kind === 'wrong' ? score.message : above && `${above} Enter once more if it is meant.`;
      const isMeant = above !== null && how === 'key' && text === typed.text && typed.problem === problem;
      if (problem && !isMeant) {
        // Whoever goes elsewhere once more does not want it.
        if (how === 'elsewhere' && text === typed.text && typed.problem === problem)
          setSaid(`“${text}” is not entered into ${column.title} of ${row.name}.`);
        else setTyping({ ...typed, text, problem, turn: typed.turn + 1 });
        return;
      }
      if (text === typed.shown) return;
      send([{ userId, columnId: column.id, points, text: text.trim() }], isMeant);
    },
    [send],
  );
  const empty = useCallback(
    (userId: string, place: number) => {
      const { byId, columns } = now.current;
      const column = columns[place];
      if (column && byId.get(userId)?.points[place] != null)
        send([{ userId, columnId: column.id, points: null, text: '' }], false);
    },
    [send],
  );
  /** @param shown the students as they stand in the grid, from the one into whose cell it was pasted */
  const paste = useCallback((shown: readonly GradebookRow[], place: number, text: string) => {
    const { columns } = now.current;
    const found = pastedScores(
      text,
      { row: 0, column: place },
      shown.length,
      columns.map((column) => column.kind === 'manual'),
    );
    if (found.cells.length > 0) setPasted({ rows: shown, ...found });
  }, []);
  const enterPasted = () => {
    const scores = (pasted?.cells ?? []).flatMap(({ row, column, score, text }): NewScore[] => {
      const userId = pasted?.rows[row]?.userId;
      const columnId = columns[column]?.id;
      return userId && columnId && score.kind === 'points' ? [{ userId, columnId, points: score.points, text }] : [];
    });
    setPasted(null);
    // What is above the worth stood in what was looked at.
    if (scores.length) send(scores, true);
  };
  const undo = useCallback(() => {
    // Behind what is on its way: taken back is the score that was entered last, answered or not.
    inTurn(async () => {
      const last = acts.current.at(-1);
      if (!last) return;
      await perform(
        () => commands.undoChange(last.auditId),
        () => {
          for (const key of last.keys) {
            newest.current.delete(key);
            takenFrom.current.add(key.split('/')[0] ?? '');
          }
          setActs(acts.current.filter((one) => one !== last));
          setSaid(`Taken back: ${last.said}`);
        },
        onlyRows,
      );
    });
  }, [commands, inTurn, perform, setActs]);
  const sendAgain = () => {
    const scores = Object.entries(waiting.value).flatMap(([key, { text }]): NewScore[] => {
      const [userId = '', columnId = ''] = key.split('/');
      const score = readScore(text);
      if (score.kind === 'wrong' || !byId.has(userId) || !columns.some((column) => column.id === columnId)) return [];
      return [{ userId, columnId, points: score.kind === 'points' ? score.points : null, text }];
    });
    // Whatever is above its column's worth was said to be meant when it was typed.
    if (scores.length) send(scores, true);
  };
  const again = useRef(sendAgain);
  again.current = sendAgain;
  useEffect(() => {
    const retry = () => {
      again.current();
      // What was entered before the network went is looked at now.
      inTurn(async () => undefined);
    };
    window.addEventListener('online', retry);
    return () => window.removeEventListener('online', retry);
  }, [inTurn]);
  /** What stands in cells that the page does not know of, by student and place. */
  const texts = useMemo(() => {
    const byStudent = new Map<string, Record<number, string>>();
    const typed = Object.entries(waiting.value).map(([key, { text }]) => [key, text] as const);
    for (const [key, text] of [...Object.entries(sent), ...typed]) {
      const [userId = '', columnId = ''] = key.split('/');
      const place = columns.findIndex((column) => column.id === columnId);
      if (place >= 0) byStudent.set(userId, { ...byStudent.get(userId), [place]: text });
    }
    return byStudent;
  }, [sent, waiting.value, columns]);
  const last = entered.at(-1);
  return {
    typing,
    begin,
    end,
    empty,
    paste,
    undo,
    texts,
    pasted,
    enterPasted,
    dropPasted: () => setPasted(null),
    said: said || (last?.said ?? ''),
    mayUndo: last !== undefined && said === '',
    /** Scores that the server does not have, while nothing is under way. */
    unsent: busy ? 0 : Object.keys(waiting.value).length,
    problems,
    sendAgain,
    giveUp: () => waiting.done(),
  };
}

export type Scores = ReturnType<typeof useScores>;
