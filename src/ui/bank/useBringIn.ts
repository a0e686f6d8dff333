'use client';
import Papa from 'papaparse';
import { type ClipboardEvent, useRef, useState } from 'react';
import { linesLeft } from '@/core/bank/bringIn/leftOver';
import { type Line, linesOf, lineText } from '@/core/bank/bringIn/line';
import type { SaidRole } from '@/core/bank/bringIn/lineForms';
import { type KnownTable, knownTable, type TableField } from '@/core/bank/bringIn/readTable';
import type { Problem, Result } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { Preview } from '@/server/bringIn/preview';
import { useOnce } from '../keep/useOnce';
import { useWritten } from '../keep/useWritten';
import type { Commands } from '../kit/commands';
import { usePerform } from '../kit/usePerform';
import { insertedLines, pastedLines, pastedTable, retypedLines } from './pastedLines';

export type BringInCommands = Commands<'previewText' | 'bringIn' | 'undoChange', 'courseId' | 'bankId'>;

type Said = Record<string, SaidRole>;

/** What is being brought in: a text, with its form where it was pasted with one, or a table; and what was said of its lines. */
type Work = {
  text: string;
  /** The lines with what stands out in them; null where the text alone says everything. */
  lines: Line[] | null;
  table: KnownTable | null;
  said: Said;
};

const nothing: Work = { text: '', lines: null, table: null, said: {} };
const textOf = (lines: readonly Line[]) => lines.map((line) => lineText(line).trim()).join('\n');

/** What it is called where it waits unfinished. */
const nameOf = ({ text, table }: Work): string | null => {
  if (table) return `Questions from a table of ${counted(table.rows.length, 'row')}`;
  const first = text.trim().split('\n')[0] ?? '';
  return first ? `Questions to bring in: “${first.slice(0, 60)}”` : null;
};

/** So many questions go in at once: others wait for about a fifth of a second. */
const perStep = 250;

/** Bringing questions in: what was pasted or chosen, how it was read, what of it is taken, and what was done. */
export function useBringIn(base: string, firstCategory: string, commands: BringInCommands) {
  const { perform, problems, busy, setProblems } = usePerform();
  const work = useWritten<Work>('bring-in', nameOf, nothing);
  const { value, change } = work;
  const [preview, setPreview] = useState<Preview | null>(null);
  /** What its person decided of single questions, by their place: to take them, or to leave them. */
  const [decided, setDecided] = useState<ReadonlyMap<number, boolean>>(new Map());
  const [categoryId, setCategoryId] = useState(firstCategory);
  const [done, setDone] = useState<{ added: number; auditId: number; of: number } | null>(null);
  const [reading, setReading] = useState(false);
  const [isTaking, setIsTaking] = useState(false);
  const [taken, setTaken] = useState(0);
  const file = useRef<File | null>(null);

  const show = (next: Preview) => {
    setPreview(next);
    setDone(null);
    change((before) => ({
      ...before,
      lines: next.text?.lines ?? null,
      text: next.text ? textOf(next.text.lines) : '',
      table: next.columns,
    }));
  };
  const ask = (source: Pick<Work, 'text' | 'lines' | 'table' | 'said'>, forget: string[] = []) => {
    const { text, lines, table, said } = source;
    if (table) {
      const { headings, rows, fields, hasHeadings } = table;
      return perform(() => commands.previewText({ kind: 'table', headings, rows, fields, hasHeadings }), show);
    }
    return perform(
      () => commands.previewText(lines ? { kind: 'lines', lines, said, forget } : { kind: 'text', text, said, forget }),
      show,
    );
  };
  const readFile = async (chosen: File, letters?: string) => {
    file.current = chosen;
    setReading(true);
    setProblems([]);
    try {
      const query = letters ? `?letters=${letters}` : '';
      const answer = await fetch(`${base}/bring-in/file${query}`, { method: 'POST', body: chosen });
      const body = (await answer.json()) as Preview & { problems?: Problem[] };
      if (answer.ok) {
        setDecided(new Map());
        change(nothing);
        show(body);
      } else setProblems(body.problems ?? []);
    } catch {
      setProblems([{ code: 'busy', message: 'The server could not be reached. Choose the file again.' }]);
    }
    setReading(false);
  };

  const isTaken = (i: number): boolean => {
    const item = preview?.items[i];
    return item?.content ? (decided.get(i) ?? item.state === 'new') : false;
  };
  const chosen =
    preview?.items.flatMap((item, i) => (item.content && isTaken(i) ? [{ ...item, content: item.content }] : [])) ?? [];
  const once = useOnce();
  const stops = useRef(false);
  /** What has gone in so far of what is being taken: an answer that got lost goes on from here. */
  const begun = useRef<{ what: string; at: number; auditId: number | null }>({ what: '', at: 0, auditId: null });
  /** Brings in step by step, so that others are served meanwhile and it can be stopped; a refusal takes back what had gone in. */
  const takeAll = async (): Promise<Result<{ added: number; auditId: number }>> => {
    const what = JSON.stringify([categoryId, chosen.length, chosen[0], chosen.at(-1)]);
    if (begun.current.what !== what) begun.current = { what, at: 0, auditId: null };
    const run = begun.current;
    while (run.at < chosen.length && !(stops.current && run.auditId !== null)) {
      setTaken(run.at);
      const items = chosen.slice(run.at, run.at + perStep);
      const answer = await once(commands.bringIn, { categoryId, items, joins: run.auditId });
      if (!answer.ok) {
        begun.current = { what: '', at: 0, auditId: null };
        if (run.auditId !== null) await commands.undoChange(run.auditId);
        return answer;
      }
      run.auditId = answer.value.auditId;
      run.at += items.length;
    }
    begun.current = { what: '', at: 0, auditId: null };
    return { ok: true, value: { added: run.at, auditId: run.auditId ?? 0 } };
  };
  const take = async () => {
    setIsTaking(true);
    stops.current = false;
    await perform(takeAll, ({ added, auditId }) => {
      setDone({ added, auditId, of: chosen.length });
      setPreview(null);
      setDecided(new Map());
      // What was not taken stays, to be mended or to go on with.
      const stopped = added < chosen.length;
      if (!preview?.text) return stopped ? undefined : work.done();
      const { lines, roles } = preview.text;
      const wentIn = new Set(
        preview.items.flatMap((item, i) => (item.content && isTaken(i) ? [i] : [])).slice(0, added),
      );
      const isGone = preview.items.map((item, i) => item.state === 'there' || wentIn.has(i));
      const left = linesLeft(roles, isGone).map((at) => lines[at] as Line);
      return left.length === 0 ? work.done() : work.done({ ...nothing, text: textOf(left), lines: left });
    });
    setIsTaking(false);
  };
  const paste = (event: ClipboardEvent<HTMLTextAreaElement>) => {
    const pasted = event.clipboardData.getData('text/html');
    if (pasted === '') return;
    const { selectionStart, selectionEnd } = event.currentTarget;
    const [before, after] = [value.text.slice(0, selectionStart), value.text.slice(selectionEnd)];
    if (`${before}${after}`.trim() !== '') {
      const joined = insertedLines(value.lines ?? linesOf(value.text), before, pastedLines(pasted), after);
      if (joined === null) return;
      event.preventDefault();
      change({ ...nothing, lines: joined, text: textOf(joined) });
      return;
    }
    const cells = pastedTable(pasted);
    const lines = pastedLines(pasted);
    if (cells && knownTable(cells)) {
      event.preventDefault();
      change({ ...nothing, text: Papa.unparse(cells, { delimiter: '\t', newline: '\n' }) });
    } else if (lines.length > 0) {
      // What stands out marks right answers, so it is kept beside the words until they are changed by hand.
      event.preventDefault();
      change({ ...nothing, lines, text: textOf(lines) });
    }
  };
  /** Says what lines are, from one to another: all others of their form follow. */
  const sayAll = (from: number, to: number, role: SaidRole) => {
    const said = { ...value.said };
    for (let line = from; line <= to; line++) if (preview?.text?.roles[line]?.role !== 'blank') said[line] = role;
    change((before) => ({ ...before, said }));
    void ask({ ...value, said });
  };
  /** Writes lines anew, from one to another; what was said of the lines around them stays. */
  const rewrite = (from: number, to: number, text: string) => {
    const lines = preview?.text?.lines ?? [];
    const known = new Map(lines.slice(from, to + 1).map((line) => [lineText(line), line]));
    const written = linesOf(text).map((line) => known.get(lineText(line)) ?? line);
    const moved = written.length - (to + 1 - from);
    const said = Object.fromEntries(
      Object.entries(value.said).flatMap(([at, role]) =>
        Number(at) < from ? [[at, role]] : Number(at) > to ? [[String(Number(at) + moved), role]] : [],
      ),
    );
    setDecided(new Map());
    void ask({ ...value, said, lines: [...lines.slice(0, from), ...written, ...lines.slice(to + 1)] });
    change((before) => ({ ...before, said }));
  };
  return {
    problems,
    busy,
    text: value.text,
    /** The table that was being brought in when the page was left; null for a text. */
    table: value.table,
    /** Whether what stands out in what was pasted is remembered. */
    hasForm: value.lines !== null,
    type: (text: string) =>
      change((now) => ({ ...nothing, text, lines: now.lines && text.trim() ? retypedLines(now.lines, text) : null })),
    paste,
    read: () => {
      setDecided(new Map());
      void ask(value);
    },
    readFile,
    readLetters: (letters: string) => file.current && void readFile(file.current, letters),
    canReadLetters: file.current !== null,
    reading,
    preview,
    backToText: () => {
      setPreview(null);
      change((before) => ({ ...before, table: null }));
    },
    giveUp: () => {
      setPreview(null);
      work.done();
    },
    map: (at: number, field: TableField) => {
      if (!value.table) return;
      const table = { ...value.table, fields: value.table.fields.map((one, i) => (i === at ? field : one)) };
      void ask({ ...value, table });
    },
    sayAll,
    say: (line: number, role: SaidRole) => sayAll(line, line, role),
    rewrite,
    forget: (forms: string[]) => void ask(value, forms),
    isTaken,
    /** Takes a question, or leaves it. */
    toggle: (at: number) => setDecided((before) => new Map(before).set(at, !isTaken(at))),
    categoryId,
    setCategoryId,
    chosen,
    take,
    isTaking,
    /** How many have gone in while they are being taken. */
    taken,
    stop: () => {
      stops.current = true;
    },
    done,
    undo: (auditId: number) =>
      void perform(
        () => commands.undoChange(auditId),
        () => setDone(null),
      ),
    broughtBack: work.broughtBack,
    isUnfinished: work.isUnfinished,
    isKept: work.isKept,
  };
}

export type BringingIn = ReturnType<typeof useBringIn>;
