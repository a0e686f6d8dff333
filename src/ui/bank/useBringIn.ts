'use client';
import { type ClipboardEvent, useState } from 'react';
import { leftOver } from '@/core/bank/bringIn/leftOver';
import type { Line } from '@/core/bank/bringIn/readDocument';
import type { TableField } from '@/core/bank/bringIn/readTable';
import type { Problem } from '@/core/base/result';
import type { Preview } from '@/server/bringIn/bringIn';
import type { Commands } from '../kit/commands';
import { usePerform } from '../kit/usePerform';
import { pastedLines } from './pastedLines';

export type BringInCommands = Commands<'previewText' | 'bringIn' | 'undoChange', 'courseId' | 'bankId'>;

/** Bringing questions in: what was pasted or chosen, how it was read, what of it is taken, and what was done. */
export function useBringIn(base: string, firstCategory: string, commands: BringInCommands) {
  const { perform, problems, busy, setProblems } = usePerform();
  const [text, setText] = useState('');
  const [lines, setLines] = useState<Line[] | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [left, setLeft] = useState<Set<number>>(new Set());
  const [categoryId, setCategoryId] = useState(firstCategory);
  const [done, setDone] = useState<{ added: number; auditId: number } | null>(null);
  const [reading, setReading] = useState(false);

  const show = (next: Preview) => {
    setPreview(next);
    setDone(null);
    setLeft(new Set(next.items.flatMap((item, i) => (item.state === 'new' ? [] : [i]))));
  };
  const read = () =>
    perform(() => commands.previewText(lines ? { kind: 'lines', lines } : { kind: 'text', text }), show);
  const readFile = async (file: File) => {
    setReading(true);
    setProblems([]);
    try {
      const answer = await fetch(`${base}/bring-in/file`, { method: 'POST', body: file });
      const body = (await answer.json()) as Preview & { problems?: Problem[] };
      if (answer.ok) show(body);
      else setProblems(body.problems ?? []);
    } catch {
      setProblems([{ code: 'busy', message: 'The server could not be reached. Choose the file again.' }]);
    }
    setReading(false);
  };
  const map = (at: number, field: TableField) => {
    if (!preview?.columns) return;
    const { headings, rows, fields } = preview.columns;
    const next = fields.map((one, i) => (i === at ? field : one));
    void perform(() => commands.previewText({ kind: 'table', headings, rows, fields: next }), show);
  };
  const chosen =
    preview?.items.flatMap((item, i) => (item.content && !left.has(i) ? [{ ...item, content: item.content }] : [])) ??
    [];
  const takenOf = (items: Preview['items']) =>
    items.map((item, i) => ({ at: item.at, taken: item.state === 'there' || (item.content !== null && !left.has(i)) }));
  const take = () =>
    perform(
      () => commands.bringIn({ categoryId, items: chosen }),
      (value) => {
        setDone(value);
        setPreview(null);
        // What was not taken stays, to be mended.
        setText(preview && !preview.columns ? leftOver(text, takenOf(preview.items)) : '');
        setLines(null);
      },
    );
  const paste = (event: ClipboardEvent) => {
    const html = event.clipboardData.getData('text/html');
    const found = html ? pastedLines(html) : [];
    // What stands out marks right answers, so it is kept beside the words until they are changed by hand.
    if (text.trim() === '' && found.length > 0) {
      event.preventDefault();
      setLines(found);
      setText(
        found
          .map((line) =>
            [
              line.label,
              line.runs
                .map((run) => run.text)
                .join('')
                .trim(),
            ]
              .filter(Boolean)
              .join(' '),
          )
          .join('\n'),
      );
    }
  };
  const type = (typed: string) => {
    setText(typed);
    setLines(null);
  };
  return {
    problems,
    busy,
    text,
    /** Whether what stands out in what was pasted is remembered. */
    hasForm: lines !== null,
    type,
    paste,
    read,
    readFile,
    reading,
    preview,
    backToText: () => setPreview(null),
    map,
    left,
    /** Takes an item, or leaves it. */
    toggle: (at: number) =>
      setLeft((before) => {
        const next = new Set(before);
        if (!next.delete(at)) next.add(at);
        return next;
      }),
    categoryId,
    setCategoryId,
    chosen,
    take,
    done,
    undo: (auditId: number) =>
      void perform(
        () => commands.undoChange(auditId),
        () => setDone(null),
      ),
  };
}

export type BringingIn = ReturnType<typeof useBringIn>;
