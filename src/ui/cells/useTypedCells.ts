'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { pastedText } from '@/core/base/pastedText';
import type { Result } from '@/core/base/result';
import { useWritten } from '../keep/useWritten';
import { usePerform } from '../kit/usePerform';

/** A cell of a grid that is typed into: of which row, and of which column. */
export type CellAt = { row: string; column: string };

/** What a cell is, as the page shows it. */
type Cell<Before> = {
  rowName: string;
  columnName: string;
  /** What stands in it, as it is typed. */
  text: string;
  /** What whoever changes it has seen of it: the server refuses a change over anything else. */
  before: Before;
};

/** What a text would be in a cell: wrong, or right, with what speaks against it and may be meant. */
export type Reading = { kind: 'right'; doubt: string | null } | { kind: 'wrong'; message: string };

/** A cell as it is sent. */
export type TypedCell<Before> = CellAt & { text: string; before: Before };

/** The cells that one grid has, and what becomes of what is typed into them. */
export type TypedGrid<Before extends string | number> = {
  /** Names them in the journal of this browser. */
  name: string;
  /** So many of what is typed there. @example '3 scores' */
  many(count: number): string;
  /** Where they stand, at the end of a sentence. @example 'the gradebook' */
  place: string;
  /** Another one whenever the page shows something new. */
  page: unknown;
  /** The columns in their order, as far as something can be pasted over them. */
  columns: readonly string[];
  /** Null where there is no such cell any more. */
  cell(at: CellAt): Cell<Before> | null;
  /** @param all everything that would be entered with it, by {@link keyOf} its cell */
  read(at: CellAt, text: string, all: ReadonlyMap<string, string>): Reading;
  /** Whether the page shows in a cell what this text would come to. */
  isThere(at: CellAt, text: string): boolean;
  /** What was entered into one cell, in words. */
  says(at: CellAt, text: string): string;
  /** @param meant whether what speaks against a cell has been seen, and it is meant */
  enter(
    cells: readonly TypedCell<Before>[],
    meant: boolean,
  ): Promise<Result<{ auditId: number; befores: readonly Before[] }>>;
  undo(auditId: number): Promise<Result<unknown>>;
  /**
   * Looks again at what has changed, and at some rows besides; says whether it could. Null where the page is read anew after
   * each change.
   */
  look: ((rows: readonly string[]) => Promise<boolean>) | null;
};

/** A cell that is being typed into: what stands there, and what speaks against that. */
export type Typing = CellAt & {
  text: string;
  problem: string | null;
  /** What the cell showed, where that is what is changed; null where it is typed over. */
  shown: string | null;
  /** How often it was left and given back. */
  turn: number;
};

/** How a cell that is typed into is left: by a key that enters, by going elsewhere, or without entering anything. */
export type Leaving = 'key' | 'elsewhere' | 'given-up';

/** What was entered in one act: its line in the log, the cells, and what is said of it. */
type Act = { auditId: number; cells: readonly CellAt[]; said: string };

/** A text that the server has not said to have: as it was typed, and over what. */
type Waiting<Before> = { text: string; before: Before };

/** What was pasted over one cell, to be looked at before it is entered. */
export type PastedCell = CellAt & {
  rowName: string;
  columnName: string;
  text: string;
  /** What stands there now. */
  now: string;
  reading: Reading;
};

/** The name of a cell among all of them, and back. */
export const keyOf = ({ row, column }: CellAt): string => `${row}/${column}`;
const cellOf = (key: string): CellAt => {
  const [row = '', column = ''] = key.split('/');
  return { row, column };
};

/**
 * Cells as they are typed and pasted into a grid: each is kept in this browser until the server has it, sent one after
 * another, and can be taken back.
 */
export function useTypedCells<Before extends string | number>(grid: TypedGrid<Before>) {
  const { perform, problems, busy } = usePerform();
  const { perform: takeBack, problems: notTakenBack, setProblems: setNotTakenBack } = usePerform();
  const [typing, setTyping] = useState<Typing | null>(null);
  const [pasted, setPasted] = useState<{ cells: PastedCell[]; outside: number } | null>(null);
  /** What was entered from here, the latest last: its lines in the log, by which it is taken back. */
  const [entered, setEntered] = useState<readonly Act[]>([]);
  const acts = useRef<readonly Act[]>([]);
  const setActs = useCallback((next: readonly Act[]) => {
    acts.current = next;
    setEntered(next);
  }, []);
  /** What has been said since the last cell was entered. */
  const [said, setSaid] = useState('');
  /** What the server has and the page does not show yet. */
  const [sent, setSent] = useState<Readonly<Record<string, string>>>({});
  const waiting = useWritten<Readonly<Record<string, Waiting<Before>>>>(
    grid.name,
    (typed) => {
      const count = Object.keys(typed).length;
      return count ? `${grid.many(count)} typed into ${grid.place}` : null;
    },
    {},
  );
  const now = useRef(grid);
  now.current = grid;
  /** What stands in cells that were typed into here, and all that they were typed over, as long as the page shows that. */
  const newest = useRef(new Map<string, { before: Before; over: readonly Before[] }>());
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const underWay = useRef(0);
  /** Rows from which something was taken back since the page looked last. */
  const takenFrom = useRef(new Set<string>());
  /** Does something once what is under way is done; when nothing is any more, the page looks at what has changed. */
  const inTurn = useCallback((act: () => Promise<unknown>) => {
    underWay.current += 1;
    queue.current = queue.current.then(async () => {
      await act().catch(() => null);
      underWay.current -= 1;
      const { look } = now.current;
      if (underWay.current > 0 || look === null) return;
      const asked = [...takenFrom.current];
      if (await look(asked)) for (const row of asked) takenFrom.current.delete(row);
    });
  }, []);
  const { change: keep } = waiting;
  const { page } = grid;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the page is what is looked at anew
  useEffect(() => {
    // What was sent stands in what has been looked at since; so does what was entered though its answer got lost.
    for (const [key, { over }] of newest.current) {
      const cell = now.current.cell(cellOf(key));
      if (!cell || !over.includes(cell.before)) newest.current.delete(key);
    }
    setSent((before) => Object.fromEntries(Object.entries(before).filter(([key]) => newest.current.has(key))));
    keep((before) => {
      const left = Object.entries(before).filter(([key, one]) => {
        const at = cellOf(key);
        return !now.current.isThere(at, one.text) || now.current.cell(at)?.before === one.before;
      });
      return left.length === Object.keys(before).length ? before : Object.fromEntries(left);
    });
  }, [page, keep]);
  const send = useCallback(
    (cells: readonly (CellAt & { text: string })[], meant: boolean) => {
      const over = (at: CellAt): Before | undefined =>
        newest.current.get(keyOf(at))?.before ?? now.current.cell(at)?.before;
      const withBefore = (): TypedCell<Before>[] =>
        cells.flatMap((one) => {
          const before = over(one);
          return before === undefined ? [] : { ...one, before };
        });
      keep((before) => ({
        ...before,
        ...Object.fromEntries(withBefore().map((one) => [keyOf(one), { text: one.text, before: one.before }])),
      }));
      inTurn(async () => {
        const typed = withBefore();
        await perform(
          () => now.current.enter(typed, meant),
          ({ auditId, befores }) => {
            for (const [i, one] of typed.entries()) {
              const own = newest.current.get(keyOf(one))?.over ?? [];
              newest.current.set(keyOf(one), { before: befores[i] as Before, over: [...own, one.before] });
            }
            setSent((before) => ({ ...before, ...Object.fromEntries(typed.map((one) => [keyOf(one), one.text])) }));
            keep((before) =>
              Object.fromEntries(
                Object.entries(before).filter(
                  ([key, { text }]) => !typed.some((one) => keyOf(one) === key && one.text === text),
                ),
              ),
            );
            const [one] = typed;
            const what =
              typed.length === 1 && one
                ? `${now.current.says(one, one.text)}.`
                : `${now.current.many(typed.length)} entered.`;
            setActs([...acts.current, { auditId, cells: typed, said: what }]);
            setSaid('');
            setNotTakenBack([]);
          },
          { readsAnew: now.current.look === null },
        );
      });
    },
    [inTurn, keep, perform, setActs, setNotTakenBack],
  );
  const begin = useCallback((at: CellAt, text: string | null) => {
    const shown = now.current.cell(at)?.text ?? '';
    setTyping({ ...at, text: text ?? shown, problem: null, shown: text === null ? shown : null, turn: 0 });
  }, []);
  const end = useCallback(
    (typed: Typing, text: string, how: Leaving) => {
      setTyping(null);
      const at = { row: typed.row, column: typed.column };
      const cell = now.current.cell(at);
      if (how === 'given-up' || !cell) return;
      const read = now.current.read(at, text, new Map([[keyOf(at), text]]));
      const doubt = read.kind === 'right' ? read.doubt : null;
      const problem = read.kind === 'wrong' ? read.message : doubt && `${doubt} Enter once more if it is meant.`;
      const isMeant = doubt !== null && how === 'key' && text === typed.text && typed.problem === problem;
      if (problem && !isMeant) {
        // Whoever goes elsewhere once more does not want it.
        if (how === 'elsewhere' && text === typed.text && typed.problem === problem)
          setSaid(`“${text}” is not entered into ${cell.columnName} of ${cell.rowName}.`);
        else setTyping({ ...typed, text, problem, turn: typed.turn + 1 });
        return;
      }
      if (text === typed.shown) return;
      send([{ ...at, text: text.trim() }], isMeant);
    },
    [send],
  );
  const empty = useCallback(
    (at: CellAt) => {
      if (now.current.cell(at)?.text) send([{ ...at, text: '' }], false);
    },
    [send],
  );
  /** @param rows as they stand in the grid, from the one into whose cell it was pasted */
  const paste = useCallback((rows: readonly string[], column: string, text: string) => {
    const { columns } = now.current;
    const found = pastedText(
      text,
      { row: 0, column: columns.indexOf(column) },
      { rows: rows.length, columns: columns.length },
    );
    const laid = found.cells.map((one) => ({
      at: { row: rows[one.row] ?? '', column: columns[one.column] ?? '' },
      text: one.text,
    }));
    const all = new Map(laid.map((one) => [keyOf(one.at), one.text]));
    const cells = laid.flatMap(({ at, text }): PastedCell[] => {
      const cell = now.current.cell(at);
      if (!cell) return [];
      const { rowName, columnName, text: stands } = cell;
      return [{ ...at, rowName, columnName, text, now: stands, reading: now.current.read(at, text, all) }];
    });
    if (cells.length > 0) setPasted({ cells, outside: found.outside });
  }, []);
  const enterPasted = () => {
    const right = (pasted?.cells ?? []).filter((one) => one.reading.kind === 'right');
    setPasted(null);
    // What speaks against a cell stood in what was looked at.
    if (right.length) send(right, true);
  };
  const undo = useCallback(() => {
    // Behind what is on its way: taken back is what was entered last, answered or not.
    inTurn(async () => {
      const last = acts.current.at(-1);
      if (!last) return;
      await takeBack(
        () => now.current.undo(last.auditId),
        () => {
          for (const one of last.cells) {
            newest.current.delete(keyOf(one));
            takenFrom.current.add(one.row);
          }
          setActs(acts.current.filter((one) => one !== last));
          setSaid(`Taken back: ${last.said}`);
        },
        { readsAnew: now.current.look === null },
      );
    });
  }, [inTurn, takeBack, setActs]);
  const sendAgain = () => {
    const typed = Object.entries(waiting.value).map(([key, { text }]) => ({ ...cellOf(key), text }));
    const all = new Map(typed.map((one) => [keyOf(one), one.text]));
    const right = typed.filter((one) => grid.cell(one) !== null && grid.read(one, one.text, all).kind === 'right');
    // Whatever spoke against one was said to be meant when it was typed.
    if (right.length) send(right, true);
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
  /** What stands in cells that the page does not know of, by row and column. */
  const texts = useMemo(() => {
    const byRow = new Map<string, Record<string, string>>();
    const typed = Object.entries(waiting.value).map(([key, { text }]) => [key, text] as const);
    for (const [key, text] of [...Object.entries(sent), ...typed]) {
      const { row, column } = cellOf(key);
      byRow.set(row, { ...byRow.get(row), [column]: text });
    }
    return byRow;
  }, [sent, waiting.value]);
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
    many: grid.many,
    said: said || (last?.said ?? ''),
    mayUndo: last !== undefined && said === '',
    /** Cells that the server does not have, while nothing is under way. */
    unsent: busy ? 0 : Object.keys(waiting.value).length,
    problems,
    /** Why what was entered last could not be taken back. */
    notTakenBack,
    sendAgain,
    giveUp: () => waiting.done(),
  };
}

/** Cells that are typed into, as the parts of a grid take them. */
export type TypedCells = ReturnType<typeof useTypedCells>;
