'use client';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { boxLabels, gridSigns, type SheetRow } from '@/core/answerSheet/sheetRow';
import { isTypedOut, rowAsTyped, typedRow } from '@/core/answerSheet/typedRow';
import type { StudentToType } from '@/server/answerSheet/typeIn';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { Sheet } from '../kit/Page';

/** The first entry, or the second that is compared with it. */
export type Entry = 1 | 2;

type Props = {
  student: StudentToType;
  entry: Entry;
  rows: readonly SheetRow[];
  /** What is said of the student before. */
  said: string;
  /** Changes when the student was chosen anew; 0 where only the entry was changed. */
  chosen: number;
  keep: (rows: string[][]) => Promise<boolean>;
  skip: () => void;
};

/** What a row takes, in few words. */
const takes = (row: SheetRow): string => {
  if (row.kind === 'points') return `points to ${row.most}`;
  return row.kind === 'number' ? `number: ${gridSigns(row).slice(0, -10).join(' ')} 0–9` : boxLabels(row).join(' ');
};

/** One student's answers, typed row by row: a letter leads to the next row, Enter behind the last one to the next student. */
export function TypeOne({ student, entry, rows, said, chosen, keep, skip }: Props) {
  const first = rows.map((row, i) => (entry === 1 && student.rows ? rowAsTyped(row, student.rows[i] ?? []) : ''));
  const {
    value: texts,
    change,
    done,
  } = useWritten(
    `typed/${student.userId}/${entry}`,
    (typed) => (typed.some(Boolean) ? `Answers of ${student.name}, typed and not kept yet` : null),
    first,
  );
  const [problems, setProblems] = useState<Record<number, string>>({});
  const [empty, setEmpty] = useState(false);
  const fields = useRef<(HTMLInputElement | null)[]>([]);
  const go = (to: number) => {
    const field = fields.current[to];
    field?.focus();
    field?.select();
  };
  useEffect(() => {
    if (chosen > 0) fields.current[0]?.focus();
  }, [chosen]);
  const change1 = (i: number, text: string) => {
    change((before) => rows.map((_, n) => (n === i ? text : (before[n] ?? ''))));
    const { [i]: _, ...others } = problems;
    setProblems(others);
    setEmpty(false);
    const row = rows[i] as SheetRow;
    if (isTypedOut(row, text)) go(i + 1);
  };
  const check = (i: number): boolean => {
    const read = typedRow(rows[i] as SheetRow, texts[i] ?? '');
    if (!('problem' in read)) return true;
    setProblems({ ...problems, [i]: read.problem });
    return false;
  };
  const save = async () => {
    if (texts.every((text) => text.trim() === '')) return setEmpty(true);
    const read = rows.map((row, i) => typedRow(row, texts[i] ?? ''));
    const wrong = Object.fromEntries(read.flatMap((one, i) => ('problem' in one ? [[i, one.problem]] : [])));
    setProblems(wrong);
    const [at] = Object.keys(wrong);
    if (at !== undefined) return go(Number(at));
    const signs = read.map((one) => ('signs' in one ? one.signs : []));
    if (await keep(signs)) done(texts);
  };
  const onKey = (event: KeyboardEvent<HTMLInputElement>, i: number) => {
    const { value } = event.currentTarget;
    if (event.key === 'Enter') {
      event.preventDefault();
      if (!check(i)) return;
      if (i === rows.length - 1 || event.ctrlKey || event.metaKey) void save();
      else go(i + 1);
    } else if (event.key === ' ' && (value === '' || rows[i]?.kind === 'number')) {
      event.preventDefault();
      if (check(i)) go(i + 1);
    } else if (event.key === 'ArrowDown') {
      event.preventDefault();
      go(i + 1);
    } else if (event.key === 'ArrowUp' || (event.key === 'Backspace' && value === '')) {
      event.preventDefault();
      go(i - 1);
    }
  };
  return (
    <Sheet label={`Answers of ${student.name}`} className="px-5 py-4">
      <h2 className="font-serif text-lg font-semibold">
        {student.name}
        {student.studentNumber && <span className="ml-2 font-sans text-sm text-ink-2">{student.studentNumber}</span>}
      </h2>
      <p className="mt-1 text-sm text-ink-2">
        A letter leads to the next row; several letters, numbers and points end with Enter. Space or - leaves a row
        empty. Ctrl+Enter keeps the paper from anywhere.
      </p>
      <ol className="mt-3 grid grid-cols-[repeat(auto-fill,minmax(8.5rem,1fr))] gap-x-4 gap-y-2">
        {rows.map((row, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: rows have no other name than their place
          <li key={i}>
            <label className="flex items-baseline gap-2">
              <span className="w-7 shrink-0 text-right font-medium tabular-nums">{row.label}</span>
              <input
                ref={(field) => {
                  fields.current[i] = field;
                }}
                value={texts[i] ?? ''}
                className={`${inputShape} font-medium uppercase`}
                autoComplete="off"
                autoCapitalize="characters"
                spellCheck={false}
                aria-label={`Row ${row.label}: ${takes(row)}`}
                aria-invalid={problems[i] ? true : undefined}
                aria-describedby={problems[i] ? `row-${i}-problem` : undefined}
                onChange={(event) => change1(i, event.target.value)}
                onKeyDown={(event) => onKey(event, i)}
              />
            </label>
            <p
              id={`row-${i}-problem`}
              aria-live="polite"
              className={`ml-9 text-xs ${problems[i] ? 'text-brick' : 'text-ink-2'}`}
            >
              {problems[i] ?? takes(row)}
            </p>
          </li>
        ))}
      </ol>
      {empty && (
        <p role="alert" className="mt-3 text-brick">
          Nothing is typed. Where a paper came back empty, type - in its first row; who handed nothing in is skipped.
        </p>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-3 border-t border-line pt-3">
        <Button look="main" onClick={() => void save()}>
          Keep, and the next student
        </Button>
        <Button onClick={skip}>Skip {student.name}</Button>
        <span role="status" className="text-pine">
          {said}
        </span>
      </div>
    </Sheet>
  );
}
