'use client';
import Link from 'next/link';
import { type KeyboardEvent, useState } from 'react';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { ColumnStatistics } from '@/core/gradebook/statistics';
import type { CellHistory } from '@/server/gradebook/entries';
import type { ColumnShown, Explained, Gradebook, GradebookRow as Row } from '@/server/gradebook/gradebook';
import { ButtonLink } from '../kit/Button';
import { Done } from '../kit/Done';
import { SelectField } from '../kit/Field';
import { Find, holds } from '../kit/Find';
import { Empty, PageTitle, Sheet } from '../kit/Page';
import { ariaSort, RowsOutOfView, SortButton, type Sorted, useRowsInView } from '../kit/RowTable';
import type { Command } from '../kit/usePerform';
import { CellSheet } from './CellSheet';
import { ExplanationSheet } from './ExplanationSheet';

export type GradebookCommands = {
  history: Command<[columnId: string, userId: string], CellHistory>;
  enter: Command<[columnId: string, userId: string, input: unknown], { entryId: number }>;
  explain: Command<[userId: string], Explained>;
};

/** What a cell says besides its number: its sign, and that sign in words. */
const signs: Record<string, { sign: string; says: string; look: string }> = {
  c: { sign: '≠', says: 'changed since published', look: 'text-saffron' },
  r: { sign: '◔', says: 'preliminary, not published', look: 'text-saffron' },
  n: { sign: '○', says: 'handed in, not published', look: 'text-plum' },
  m: { sign: '∅', says: 'missing', look: 'text-brick' },
  x: { sign: 'excused', says: 'excused', look: 'text-sm text-ink-2' },
};

const doneSign = { sign: '✓', says: 'done with it', look: 'text-pine' };

const statisticsShown: { key: keyof ColumnStatistics; name: string }[] = [
  { key: 'mean', name: 'Mean' },
  { key: 'median', name: 'Median' },
  { key: 'deviation', name: 'SD' },
  { key: 'least', name: 'Lowest' },
  { key: 'most', name: 'Highest' },
];

type Open = { kind: 'cell'; column: ColumnShown; row: Row } | { kind: 'total'; row: Row };

type Props = { base: string; book: Gradebook; commands: GradebookCommands };

/** The gradebook as a grid: names stay in view, only rows in view are drawn, each cell opens with its history. */
export function GradebookPage({ base, book, commands }: Props) {
  const { columns, rows, rules, groups } = book;
  const [find, setFind] = useState('');
  const [only, setOnly] = useState('all');
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const [open, setOpen] = useState<Open | null>(null);
  const [done, setDone] = useState('');
  const [more, setMore] = useState(false);
  const filters: Record<string, (row: Row) => boolean> = {
    all: () => true,
    changed: (row) => row.signs.includes('c'),
    missing: (row) => row.signs.includes('m'),
    waiting: (row) => row.signs.includes('n') || row.signs.includes('r'),
    excused: (row) => row.signs.includes('x'),
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
  const { box, shown, before, after } = useRowsInView(matching.length);
  const hasSections = rows.some((row) => row.section);
  const hasBands = rules.bands.length > 0;
  const hasDone = rows.some((row) => /[yn]/.test(row.done));
  const text = (value: number | null | undefined) =>
    value === null || value === undefined ? '' : roundHalfUp(value, rules.decimals);
  const walk = (event: KeyboardEvent<HTMLTableElement>) => {
    const cell = (event.target as HTMLElement).closest('td');
    if (!cell) return;
    const move = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[event.key];
    if (!move) return;
    const row = cell.parentElement as HTMLTableRowElement;
    const body = row.parentElement as HTMLTableSectionElement;
    const to = body.rows[row.sectionRowIndex + (move[0] as number)]?.cells[cell.cellIndex + (move[1] as number)];
    const button = to?.querySelector('button');
    if (!button) return;
    event.preventDefault();
    button.focus();
  };
  const head = (by: string, name: string) => (
    <SortButton
      column={{ key: by, name }}
      sorted={sorted}
      onSort={setSorted}
      downFirst={by !== 'name'}
      className={by === 'name' ? 'text-left' : 'text-right'}
    />
  );
  const pinned = 'sticky left-0 z-10 bg-inherit border-r border-line';
  const groupOf = (column: ColumnShown) => groups.find((group) => group.id === column.groupId)?.title ?? '';
  return (
    <div className="min-w-0">
      <PageTitle
        title="Gradebook"
        note={`${counted(rows.length, 'student')}, ${counted(columns.length, 'column')}; published results, scaled to what each column is worth`}
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
        <div className={open ? 'grid items-start gap-4 xl:grid-cols-[1fr_24rem]' : ''}>
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
              <span className="ml-auto text-sm text-ink-2">
                {[...Object.values(signs).filter((one) => one.sign !== one.says), ...(hasDone ? [doneSign] : [])].map(
                  ({ sign, says, look }) => (
                    <span key={sign} className="ml-3 whitespace-nowrap">
                      <span className={look}>{sign}</span> {says}
                    </span>
                  ),
                )}
              </span>
            </Find>
            <section
              ref={box}
              aria-label="Gradebook, listed"
              // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
              tabIndex={0}
              className="max-h-[max(20rem,calc(100dvh-13rem))] overflow-auto"
            >
              <table className="min-w-full border-separate border-spacing-0" onKeyDown={walk}>
                <thead className="sticky top-0 z-20 bg-sheet text-sm">
                  <tr className="text-left align-bottom [&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:font-medium">
                    <th className={`${pinned} min-w-52 bg-sheet`} aria-sort={ariaSort(sorted, 'name')}>
                      {head('name', 'Student')}
                    </th>
                    <th className="min-w-20 text-right" aria-sort={ariaSort(sorted, 'total')}>
                      {head('total', 'Total %')}
                    </th>
                    {hasBands && <th className="min-w-16">Band</th>}
                    {columns.map((column) => (
                      <th
                        key={column.id}
                        className="max-w-40 min-w-24 !text-right"
                        aria-sort={ariaSort(sorted, column.id)}
                      >
                        {groupOf(column) && (
                          <span className="block truncate font-normal text-ink-2">{groupOf(column)}</span>
                        )}
                        {head(column.id, column.title)}
                        <span className="block font-normal text-ink-2">
                          {column.kind === 'sitting' ? (
                            <Link
                              href={`${base}/sittings/${column.id}/results`}
                              prefetch={false}
                              className="hover:underline"
                            >
                              of {pointsText(column.worth)}
                            </Link>
                          ) : (
                            `of ${pointsText(column.worth)}, by hand`
                          )}
                          {column.extraCredit && ', extra'}
                        </span>
                      </th>
                    ))}
                    {hasSections && <th className="min-w-24">Section</th>}
                  </tr>
                </thead>
                <tbody>
                  <RowsOutOfView height={before} />
                  {shown.map((index) => {
                    const row = matching[index] as Row;
                    return (
                      <tr
                        key={row.userId}
                        className="h-9 bg-sheet hover:bg-paper [&>*]:border-b [&>*]:border-line [&>td]:p-0"
                      >
                        <th scope="row" className={`${pinned} px-3 text-left font-medium whitespace-nowrap`}>
                          {row.name}
                        </th>
                        <td>
                          <CellButton
                            label={`Total of ${row.name}: ${row.total === null ? 'nothing counts yet' : `${text(row.total)} %`}`}
                            first={index === 0}
                            strong
                            onOpen={() => setOpen({ kind: 'total', row })}
                          >
                            {text(row.total)}
                          </CellButton>
                        </td>
                        {hasBands && <td className="!px-3 whitespace-nowrap">{row.band}</td>}
                        {columns.map((column, i) => (
                          <td key={column.id}>
                            <CellButton
                              label={cellSaid(row, column, i, text)}
                              onOpen={() => setOpen({ kind: 'cell', column, row })}
                            >
                              <CellText
                                points={text(row.points[i])}
                                sign={row.signs[i] ?? '-'}
                                way={row.ways[i] ?? '-'}
                                done={row.done[i] === 'y'}
                              />
                            </CellButton>
                          </td>
                        ))}
                        {hasSections && <td className="!px-3 text-ink-2">{row.section}</td>}
                      </tr>
                    );
                  })}
                  <RowsOutOfView height={after} />
                </tbody>
                <tfoot className="sticky bottom-0 z-20 bg-paper text-sm text-ink-2">
                  {statisticsShown.slice(0, more ? undefined : 1).map(({ key: which, name }) => (
                    <tr key={which} className="h-7 [&>*]:border-t [&>*]:border-line [&>*]:px-3">
                      <th scope="row" className={`${pinned} bg-paper text-left font-medium`}>
                        {name}
                        {which === 'mean' && (
                          <button
                            type="button"
                            aria-expanded={more}
                            className="ml-2 font-normal text-prussian underline"
                            onClick={() => setMore(!more)}
                          >
                            {more ? 'less' : 'more'}
                          </button>
                        )}
                      </th>
                      <td className="text-right">{text(book.total?.[which])}</td>
                      {hasBands && <td />}
                      {columns.map((column) => (
                        <td key={column.id} className="text-right">
                          {text(column.statistics?.[which])}
                        </td>
                      ))}
                      {hasSections && <td />}
                    </tr>
                  ))}
                </tfoot>
              </table>
            </section>
          </Sheet>
          {open?.kind === 'cell' && (
            <CellSheet
              key={`${open.column.id}/${open.row.userId}`}
              base={base}
              columnId={open.column.id}
              userId={open.row.userId}
              decimals={rules.decimals}
              history={commands.history}
              enter={commands.enter}
              onDone={setDone}
              onClose={() => setOpen(null)}
            />
          )}
          {open?.kind === 'total' && (
            <ExplanationSheet
              key={open.row.userId}
              userId={open.row.userId}
              name={open.row.name}
              explain={commands.explain}
              onClose={() => setOpen(null)}
            />
          )}
        </div>
      )}
    </div>
  );
}

function cellSaid(
  row: Row,
  column: ColumnShown,
  i: number,
  text: (value: number | null | undefined) => string,
): string {
  const sign = signs[row.signs[i] ?? '-'];
  const way = row.ways[i] === 'd' ? ', dropped' : row.ways[i] === 'l' ? ', late' : '';
  const done = row.done[i] === 'y' ? ', done' : row.done[i] === 'n' ? ', not done' : '';
  const points = row.points[i];
  return `${column.title} of ${row.name}: ${points === null ? (sign?.says ?? 'nothing') : `${text(points)} of ${pointsText(column.worth)}${sign ? `, ${sign.says}` : ''}`}${way}${done}`;
}

function CellText({ points, sign, way, done }: { points: string; sign: string; way: string; done: boolean }) {
  const shown = signs[sign];
  return (
    <>
      {shown && (sign !== 'm' || points === '') && <span className={`mr-1 ${shown.look}`}>{shown.sign}</span>}
      {sign === 'm' && points !== '' && <span className="mr-1 text-brick">∅</span>}
      {done && <span className="mr-1 text-pine">✓</span>}
      {way === 'l' && <span className="mr-1 text-sm text-brick">late</span>}
      <span className={way === 'd' ? 'text-ink-2 line-through' : ''}>{points}</span>
    </>
  );
}

/** A cell that can be opened; arrow keys walk from one to the next. */
const CellButton = ({
  label,
  first,
  strong,
  onOpen,
  children,
}: {
  label: string;
  first?: boolean;
  strong?: boolean;
  onOpen: () => void;
  children: React.ReactNode;
}) => (
  <button
    type="button"
    tabIndex={first ? 0 : -1}
    aria-label={label}
    className={`flex h-9 w-full items-center justify-end px-3 tabular-nums hover:bg-prussian-wash ${strong ? 'font-medium' : ''}`}
    onClick={onOpen}
  >
    {children}
  </button>
);
