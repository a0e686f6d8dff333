'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { Gradebook, GradebookRow as Row } from '@/server/gradebook/gradebook';
import { CellsSaid, CellsUnsent } from '../cells/CellsSaid';
import { PastedCells } from '../cells/PastedCells';
import { ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { SelectField } from '../kit/Field';
import { Find, holds } from '../kit/Find';
import { Link } from '../kit/Link';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import type { Sorted } from '../kit/RowTable';
import { usePerform } from '../kit/usePerform';
import { NameOrderField } from '../people/NameOrderField';
import { CellSheet } from './CellSheet';
import { ExplanationSheet } from './ExplanationSheet';
import { GradebookGrid, legendOf, type OpenCell } from './GradebookGrid';
import { useLiveBook } from './useLiveBook';
import { type ScoreCommands, useScores } from './useScores';

type GradebookCommands = Commands<
  'cellHistory' | 'enterCell' | 'explained' | 'gradebookSince' | 'setNameOrder',
  'courseId'
> &
  ScoreCommands;

type Props = { base: string; book: Gradebook; commands: GradebookCommands };

/** The gradebook as a grid: names stay in view, only rows in view are drawn, each cell opens with its history. */
export function GradebookPage({ base, book: page, commands }: Props) {
  const { book, look } = useLiveBook(page, commands.gradebookSince);
  const { columns, rows, rules } = book;
  const [find, setFind] = useState('');
  const [only, setOnly] = useState('all');
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const [open, setOpen] = useState<OpenCell | null>(null);
  const [done, setDone] = useState('');
  const { perform } = usePerform();
  const scores = useScores(book, commands, look);
  const leavers = rows.filter((row) => row.hasLeft).length;
  const filters: Record<string, (row: Row) => boolean> = {
    all: () => true,
    changed: (row) => row.marks.changed !== undefined,
    missing: (row) => row.marks.missing !== undefined,
    waiting: (row) => row.marks['not-published'] !== undefined || row.marks.preliminary !== undefined,
    excused: (row) => row.marks.excused !== undefined,
    nothing: (row) => row.total === null,
  };
  const matching = rows.filter(
    (row) =>
      holds(find, row.name, row.studentNumber, row.section) && (filters[only]?.(row) ?? row.band === only.slice(5)),
  );
  const place = columns.findIndex((column) => column.id === sorted.by);
  const key = (row: Row) => (sorted.by === 'total' ? row.total : (row.points[place] ?? null)) ?? -1;
  if (sorted.by !== 'name') matching.sort((a, b) => key(a) - key(b));
  if (sorted.down) matching.reverse();
  const openRow = open && rows.find((row) => row.userId === open.userId);
  const openColumn = open?.column == null ? null : columns.find((column) => column.id === open.column);
  const close = () => {
    // Whoever walks by keys goes on where they were.
    const cell = document.querySelector<HTMLElement>('[data-cell][aria-selected=true]');
    setOpen(null);
    cell?.focus();
  };
  return (
    <PageFrame>
      <PageTitle
        title="Gradebook"
        note={`${counted(rows.length - leavers, 'student')}${leavers ? ` and ${leavers} who left` : ''}, ${counted(columns.length, 'column')}; published results, scaled to what each column is worth`}
      >
        <ButtonLink href={`${base}/gradebook/objectives`}>By objective</ButtonLink>
        <ButtonLink href={`${base}/gradebook/bands`}>Bands</ButtonLink>
        <ButtonLink href={`${base}/gradebook/sheets`}>In and out</ButtonLink>
        <ButtonLink href={`${base}/gradebook/rules`} look="main">
          Columns and weights
        </ButtonLink>
      </PageTitle>
      {book.problems.map((problem) => (
        <p
          key={problem.message}
          className={`mb-3 px-4 py-2 ${problem.kind === 'error' ? 'bg-brick-wash text-brick' : 'bg-saffron-wash text-saffron'}`}
        >
          {problem.message}{' '}
          <Link href={`${base}/gradebook/rules`} className="underline">
            Columns and weights
          </Link>
        </p>
      ))}
      {done && (
        <Done className="mb-3" onUndo={null}>
          {done}
        </Done>
      )}
      <CellsUnsent cells={scores} />
      <PastedCells cells={scores} row="student" isNumber />
      {columns.length === 0 || rows.length === 0 ? (
        <Empty title="The gradebook is empty">
          <p className="mb-3">
            A column appears for each sitting that has been scheduled; its cells fill as you publish results. Columns of
            your own stand under “Columns and weights”.
          </p>
          <ButtonLink href={rows.length === 0 ? `${base}/people` : `${base}/exams`} look="main">
            {rows.length === 0 ? 'Add students' : 'Give an exam'}
          </ButtonLink>
        </Empty>
      ) : (
        <div className={openRow ? 'grid items-start gap-4 xl:grid-cols-[1fr_24rem]' : ''}>
          <Sheet label="Gradebook" className="min-w-0">
            <Find
              label="Find students"
              placeholder="Find by name, number, section"
              value={find}
              onChange={setFind}
              said={matching.length < rows.length && `${matching.length} of ${rows.length}`}
            >
              <SelectField
                label="Show"
                quiet
                className="w-52"
                value={only}
                onChange={(event) => setOnly(event.target.value)}
              >
                <option value="all">all students</option>
                <option value="changed">changed since published</option>
                <option value="missing">something is missing</option>
                <option value="waiting">something is not published</option>
                <option value="excused">excused somewhere</option>
                <option value="nothing">nothing counts yet</option>
                {rules.bands.map((band) => (
                  <option key={band.label} value={`band ${band.label}`}>
                    band {band.label}
                  </option>
                ))}
              </SelectField>
              <NameOrderField order={book.order} set={(order) => void perform(() => commands.setNameOrder(order))} />
              <CellsSaid cells={scores} room="min-w-80" />
              <span className="text-sm text-ink-2">
                {legendOf(rows).map(({ sign, says, look }) => (
                  <span key={sign} className="ml-3 whitespace-nowrap">
                    <span className={look}>{sign}</span> {says}
                  </span>
                ))}
              </span>
            </Find>
            <GradebookGrid
              base={base}
              book={book}
              rows={matching}
              sorted={sorted}
              onSort={setSorted}
              open={open}
              onOpen={setOpen}
              scores={scores}
            />
            {columns.some((column) => column.kind === 'manual') && (
              <p className="border-t border-line px-3 py-1.5 text-sm text-ink-2">
                Type a score into a column that is filled by hand: Enter goes down, Tab to the right, Escape leaves it,
                Ctrl+Z takes it back; a pasted column is looked at first. Enter on a cell opens its history.
              </p>
            )}
          </Sheet>
          {openRow && openColumn && (
            <CellSheet
              key={`${openColumn.id}/${openRow.userId}`}
              base={base}
              columnId={openColumn.id}
              userId={openRow.userId}
              entryId={openRow.entered[columns.indexOf(openColumn)] ?? 0}
              takesFocus={open?.byKey ?? false}
              cellHistory={commands.cellHistory}
              enterCell={commands.enterCell}
              onDone={setDone}
              onClose={close}
            />
          )}
          {openRow && open?.column === null && (
            <ExplanationSheet
              key={openRow.userId}
              base={base}
              userId={openRow.userId}
              name={openRow.name}
              explained={commands.explained}
              onClose={close}
            />
          )}
        </div>
      )}
    </PageFrame>
  );
}
