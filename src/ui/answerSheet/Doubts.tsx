'use client';
import { useEffect, useState } from 'react';
import type { Doubt } from '@/core/answerSheet/judgeMarks';
import { type SheetPage, studentRow } from '@/core/answerSheet/sheetLayout';
import { boxLabels, figuresOnly, gridSigns, type SheetPlan, type SheetRow } from '@/core/answerSheet/sheetRow';
import { rowAsTyped } from '@/core/answerSheet/typedRow';
import { counted } from '@/core/base/words';
import type { Reviewed, ReviewedPage } from '@/server/answerSheet/seeReading';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Sheet } from '../kit/Page';
import { SheetPiece } from './SheetPiece';

const doubtSaid: Readonly<Record<Doubt, string>> = {
  faint: 'A mark is faint, or was rubbed out.',
  'two-marks': 'More than one box is filled.',
  gap: 'A column in the midst of the number is empty.',
  'two-entries': 'It was typed twice, differently.',
  'no-unit': 'Tens are filled in without their units.',
};

type Props = {
  reading: Reviewed;
  pageOf: (layout: string | null, page: number) => SheetPage | null;
  picture: (pageId: string) => string;
  /** What a row says, whatever was read. */
  settle: (pageId: string, row: number, signs: string[]) => void;
};

/** Rows in doubt, one after the other: the piece of the picture, and what it says, by one key. */
export function Doubts({ reading, pageOf, picture, settle }: Props) {
  const waiting = reading.pages.flatMap((page) => page.doubts.map((row) => ({ page, row })));
  const [at, setAt] = useState(0);
  const now = waiting[Math.min(at, waiting.length - 1)];
  if (!now)
    return (
      <Sheet label="In doubt" className="mb-4 px-5 py-4">
        <p role="status" className="text-pine">
          Nothing is in doubt.
        </p>
      </Sheet>
    );
  const plan = now.page.layout === null ? undefined : reading.layouts[now.page.layout];
  const drawn = pageOf(now.page.layout, now.page.page);
  return (
    <Sheet label="In doubt" className="mb-4 px-5 py-4">
      <h2 className="font-serif text-lg font-semibold">
        In doubt: {Math.min(at, waiting.length - 1) + 1} of {counted(waiting.length, 'row')}
      </h2>
      {plan && drawn && (
        <OneDoubt
          key={`${now.page.id}/${now.row}`}
          page={now.page}
          row={now.row}
          plan={plan}
          drawn={drawn}
          picture={picture(now.page.id)}
          settle={(signs) => settle(now.page.id, now.row, signs)}
          onSkip={waiting.length > 1 ? () => setAt((at + 1) % waiting.length) : null}
        />
      )}
    </Sheet>
  );
}

type OneProps = {
  page: ReviewedPage;
  row: number;
  plan: SheetPlan;
  drawn: SheetPage;
  picture: string;
  settle: (signs: string[]) => void;
  onSkip: (() => void) | null;
};

/** The signs of a row as they were typed. */
const said = (row: SheetRow | null | undefined, signs: readonly string[]): string =>
  (row ? rowAsTyped(row, signs) : signs.join('')) || 'nothing';

function OneDoubt({ page, row, plan, drawn, picture, settle, onSkip }: OneProps) {
  const asked = row === studentRow ? null : plan.rows[row];
  const read = page.rows.find((one) => one.row === row);
  const name = asked ? `Row ${asked.label}` : 'The student’s number';
  return (
    <div className="mt-3 grid gap-3">
      <p>
        <span className="font-medium">{name}</span>
        {page.student && ` of ${page.student.name}`} <span className="text-sm text-ink-2">{page.source}</span>
        <span className="block text-saffron">{read?.doubt ? doubtSaid[read.doubt] : ''}</span>
        {read?.other && (
          <span className="block">
            First “{said(asked, read.filled)}”, then “{said(asked, read.other)}”.
          </span>
        )}
      </p>
      {page.hasPicture && <SheetPiece picture={picture} page={drawn} row={row} said={`${name}, as it was filled in`} />}
      {asked && asked.kind !== 'number' ? (
        <PickSigns
          signs={boxLabels(asked)}
          several={asked.kind === 'points' || (asked.kind === 'choice' && asked.several)}
          filled={read?.filled ?? []}
          settle={settle}
        />
      ) : (
        <TypeNumber
          columns={asked ? asked.columns : plan.studentColumns}
          signs={gridSigns(asked ?? figuresOnly)}
          read={read?.filled ?? []}
          settle={settle}
        />
      )}
      {onSkip && (
        <p>
          <Button onClick={onSkip}>Later</Button>
        </p>
      )}
    </div>
  );
}

type PickProps = {
  signs: readonly string[];
  several: boolean;
  filled: readonly string[];
  settle: (signs: string[]) => void;
};

/** What a row of boxes says: one key for each box, 0 or the hyphen for none; where several count, Enter ends. */
function PickSigns({ signs, several, filled, settle }: PickProps) {
  const [picked, setPicked] = useState<readonly string[]>(several ? filled : []);
  const press = (sign: string) => {
    if (!several) return settle([sign]);
    setPicked((now) =>
      now.includes(sign) ? now.filter((one) => one !== sign) : signs.filter((one) => one === sign || now.includes(one)),
    );
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
      const sign = signs.find((one) => one.toLowerCase() === event.key.toLowerCase());
      if (sign) press(sign);
      else if (event.key === '-') settle([]);
      else if (event.key === 'Enter' && several && !(event.target instanceof HTMLButtonElement)) settle([...picked]);
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  });
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span>It says</span>
      {signs.map((sign) => (
        <Button
          key={sign}
          aria-pressed={several ? picked.includes(sign) : undefined}
          look={several && picked.includes(sign) ? 'main' : undefined}
          onClick={() => press(sign)}
        >
          {sign}
        </Button>
      ))}
      <Button onClick={() => settle([])}>nothing (-)</Button>
      {several && (
        <Button look="main" onClick={() => settle([...picked])}>
          So it is (Enter)
        </Button>
      )}
    </div>
  );
}

type NumberProps = {
  columns: number;
  signs: readonly string[];
  read: readonly string[];
  settle: (signs: string[]) => void;
};

/** What a number grid says, typed as it reads. */
function TypeNumber({ columns, signs, read, settle }: NumberProps) {
  const [text, setText] = useState(read.join(''));
  const typed = [...text.replaceAll('-', '−').trim()];
  const wrong =
    typed.length > columns
      ? `At most ${columns} signs.`
      : typed.some((sign) => !signs.includes(sign))
        ? `Only ${signs.join(' ')} stand in this grid.`
        : null;
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!wrong) settle(Array.from({ length: columns }, (_, i) => typed[i] ?? ''));
      }}
    >
      <TextField
        label="It says"
        className="w-40"
        value={text}
        problem={wrong}
        autoFocus
        onChange={(event) => setText(event.target.value)}
      />
      <Button look="main" type="submit">
        So it is (Enter)
      </Button>
    </form>
  );
}
