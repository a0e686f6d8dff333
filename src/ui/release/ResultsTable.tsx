'use client';
import { type ReactNode, useState } from 'react';
import { rulerAtLength } from '@/core/attempt/rulerInShort';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { NameOrder } from '@/core/people/names';
import type { ResultsPage as Results, ResultRow as Row } from '@/server/release/results';
import type { Commands } from '../kit/commands';
import { SelectField } from '../kit/Field';
import { Find, holds } from '../kit/Find';
import { Link } from '../kit/Link';
import { Sheet, State } from '../kit/Page';
import { PaperRuler } from '../kit/PaperRuler';
import { RowTable, type Sorted, tableRow } from '../kit/RowTable';
import { TextLink } from '../kit/TextLink';
import { NameOrderField } from '../people/NameOrderField';
import { PickStudents } from './PickStudents';

const columns = [
  { key: 'picked', name: 'Picked', quiet: true, share: 3 },
  { key: 'name', name: 'Student', sortable: true, share: 22 },
  { key: 'section', name: 'Section', share: 9 },
  { key: 'paper', name: 'Paper', share: 15 },
  { key: 'score', name: 'Score', right: true, sortable: true, share: 9 },
  { key: 'percent', name: '%', right: true, share: 5 },
  { key: 'band', name: 'Band', share: 13 },
  { key: 'minutes', name: 'Minutes', right: true, sortable: true, share: 6 },
  { key: 'attempts', name: 'Attempts', right: true, share: 6 },
  { key: 'receipt', name: 'Receipt', share: 8 },
  { key: 'state', name: 'State', share: 11 },
];

const shareOf = (row: Row) => (row.result && row.result.possible > 0 ? row.result.earned / row.result.possible : -1);

/** A result in percent of its points; null while there is none. */
export const percentOf = (row: Row): number | null => (shareOf(row) < 0 ? null : shareOf(row) * 100);

/** Where a student's result stands, in the order in which it is gone through. */
const states = {
  changed: 'changed since published',
  ready: 'ready to publish',
  waiting: 'to be marked',
  running: 'writing now',
  'not-handed-in': 'not handed in',
  'took-part': 'took part',
  excused: 'excused',
  published: 'published',
} as const;
type ResultState = keyof typeof states;
const stateName = (state: ResultState, { anonymous }: Results['purpose']): string =>
  anonymous && state === 'not-handed-in' ? 'has not taken part' : states[state];

/** What is known of nobody where answers are anonymous and taking part does not count. */
const unknownOfSurveys: ReadonlySet<string> = new Set([
  'paper',
  'score',
  'percent',
  'band',
  'minutes',
  'attempts',
  'receipt',
]);

function stateOf(row: Row): ResultState {
  if (row.changed) return 'changed';
  if (row.published) return 'published';
  if (row.state === 'excused') return 'excused';
  if (row.state === 'running') return 'running';
  // Of a survey nothing else is known of a person.
  if (!row.result) return row.state === 'handed-in' ? 'took-part' : 'not-handed-in';
  return row.result.waiting > 0 ? 'waiting' : 'ready';
}

type Props = {
  base: string;
  sittingId: string;
  results: Results;
  /** Who is picked; null for those who may not act on anybody. */
  picked: ReadonlySet<string> | null;
  onPick: (userIds: Set<string>) => void;
  /** Sorts names otherwise. */
  onOrder: (order: NameOrder) => void;
  onDone: (said: string) => void;
  /** What can be done with those picked. */
  children: ReactNode;
} & Commands<'writeToStudents', 'courseId' | 'sittingId'>;

/** The results of a sitting, a row for each student: found, shown by their state, sorted, and picked. */
export function ResultsTable({
  base,
  sittingId,
  results,
  picked,
  onPick,
  writeToStudents,
  onOrder,
  onDone,
  children,
}: Props) {
  const [find, setFind] = useState('');
  const [only, setOnly] = useState<ResultState | 'all'>('all');
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const { rows } = results;
  const shown = rows.filter((row) => holds(find, row.name, row.section) && (only === 'all' || stateOf(row) === only));
  if (sorted.by === 'score') shown.sort((a, b) => shareOf(a) - shareOf(b));
  if (sorted.by === 'minutes') shown.sort((a, b) => (a.minutes ?? -1) - (b.minutes ?? -1));
  if (sorted.down) shown.reverse();
  const { purpose } = results;
  const saysTakingPart = purpose.anonymous && purpose.counts === 'no';
  const hasSections = rows.some((row) => row.section);
  const hasBands = !saysTakingPart && rows.some((row) => row.band);
  const hasAttempts = !saysTakingPart && rows.some((row) => row.attempts > 1);
  const inStates = (Object.keys(states) as ResultState[]).flatMap((state) => {
    const count = rows.filter((row) => stateOf(row) === state).length;
    return count > 0 || state === only ? [{ state, count }] : [];
  });
  return (
    <Sheet label="Results by student">
      <Find
        label="Find students"
        placeholder="Find by name or section"
        value={find}
        onChange={setFind}
        said={
          shown.length === rows.length
            ? counted(rows.length, 'student')
            : `${shown.length} of ${counted(rows.length, 'student')}; publishing acts on all of them`
        }
      >
        {(inStates.length > 1 || only !== 'all') && (
          <SelectField
            label="Show"
            quiet
            className="w-60"
            value={only}
            onChange={(event) => setOnly(event.target.value as ResultState | 'all')}
          >
            <option value="all">all students</option>
            {inStates.map(({ state, count }) => (
              <option key={state} value={state}>
                {stateName(state, purpose)} ({count})
              </option>
            ))}
          </SelectField>
        )}
        {results.order && <NameOrderField order={results.order} set={onOrder} />}
      </Find>
      {picked && (
        <PickStudents
          students={rows.map((row) => ({
            userId: row.userId,
            name: row.name,
            section: row.section,
            percent: percentOf(row),
            waiting: row.result?.waiting ?? 0,
            missed: nothing,
          }))}
          questions={[]}
          picked={picked}
          onPick={onPick}
          title={results.title}
          writeToStudents={writeToStudents}
          onDone={onDone}
        />
      )}
      {children}
      <RowTable
        label="Results, listed"
        columns={columns.filter(
          ({ key }) =>
            (hasSections || key !== 'section') &&
            (hasBands || key !== 'band') &&
            (hasAttempts || key !== 'attempts') &&
            (picked || key !== 'picked') &&
            !(saysTakingPart && unknownOfSurveys.has(key)),
        )}
        rows={shown}
        sorted={sorted}
        onSort={setSorted}
      >
        {(row) => (
          <tr key={row.userId || row.name} className={tableRow}>
            {picked && (
              <td className="w-8">
                <input
                  type="checkbox"
                  aria-label={`Pick ${row.name}`}
                  className="size-4 accent-prussian"
                  checked={picked.has(row.userId)}
                  onChange={(event) => {
                    const next = new Set(picked);
                    if (event.target.checked) next.add(row.userId);
                    else next.delete(row.userId);
                    onPick(next);
                  }}
                />
              </td>
            )}
            <td className="min-w-40 font-medium">
              {picked && row.userId && row.receipt ? (
                <Link
                  href={`${base}/marking/${sittingId}/students/${row.userId}`}
                  className="hover:underline"
                  title="The paper with its marks"
                >
                  {row.name}
                </Link>
              ) : (
                row.name
              )}
              {row.hasLeft && <span className="ml-2 text-sm font-normal text-ink-2">left the course</span>}
            </td>
            {hasSections && <td className="text-ink-2">{row.section}</td>}
            {!saysTakingPart && <PaperCells row={row} hasBands={hasBands} hasAttempts={hasAttempts} />}
            <td>
              <RowState
                row={row}
                purpose={purpose}
                timeZone={results.timeZone}
                makeUpHref={
                  picked && row.userId && !row.hasLeft && !saysTakingPart
                    ? `${base}/sittings/${sittingId}?ill=${row.userId}`
                    : null
                }
              />
            </td>
          </tr>
        )}
      </RowTable>
    </Sheet>
  );
}

const nothing: ReadonlySet<string> = new Set();

/** A student's paper with its score, in the cells of a row. */
function PaperCells({ row, hasBands, hasAttempts }: { row: Row; hasBands: boolean; hasAttempts: boolean }) {
  return (
    <>
      <td>
        {row.signs.length > 0 && (
          <PaperRuler size="line" signs={rulerAtLength(row.signs)} label={`Paper of ${row.name}`} />
        )}
        {row.signs.length === 0 && row.paper && (
          <span className="text-sm whitespace-nowrap text-ink-2">
            {row.paper.answered} of {row.paper.questions} answered, {row.paper.right} right
            {row.paper.waiting > 0 && `, ${row.paper.waiting} to be marked`}
          </span>
        )}
      </td>
      <td className="text-right whitespace-nowrap">{row.result && <Score result={row.result} />}</td>
      <td className="text-right">
        {row.result?.ready && row.result.possible > 0 ? roundHalfUp(percentOf(row) ?? 0, 1) : ''}
      </td>
      {hasBands && <td>{row.band}</td>}
      <td className="text-right">
        {row.minutes}
        {row.daysLate > 0 && (
          <span className="block text-sm whitespace-nowrap text-brick">{counted(row.daysLate, 'day')} late</span>
        )}
      </td>
      {hasAttempts && (
        <td className="text-right whitespace-nowrap" title={row.counts ? `attempt ${row.counts} counts` : undefined}>
          {row.attempts > 0 && row.attempts}
          {row.attempts > 1 && row.counts && <span className="text-sm text-ink-2"> · {row.counts} counts</span>}
        </td>
      )}
      <td className="font-mono text-sm whitespace-nowrap text-ink-2">{row.receipt}</td>
    </>
  );
}

/** A score; while answers wait for marks it says that it is not the last word. */
function Score({ result }: { result: { earned: number; possible: number; waiting: number } }) {
  const text = `${pointsText(result.earned)} of ${pointsText(result.possible)}`;
  return result.waiting > 0 ? <span className="text-ink-2">{text} so far</span> : text;
}

/** @param makeUpHref where a make-up is given; null where none can be */
function RowState({
  row,
  purpose,
  timeZone,
  makeUpHref,
}: {
  row: Row;
  purpose: Results['purpose'];
  timeZone: string;
  makeUpHref: string | null;
}) {
  const { published } = row;
  switch (stateOf(row)) {
    case 'changed':
      return (
        <State ink="waits">
          changed; published {pointsText(published?.earned ?? 0)} of {pointsText(published?.possible ?? 0)}
          {published && (published.band ?? '') !== row.band && `, ${published.band ?? 'no band'}`}
        </State>
      );
    case 'published':
      return (
        <span title={published ? momentText(published.publishedAt, timeZone) : undefined}>
          <State ink="done">published</State>
          {row.done === true && <span className="text-pine"> · done</span>}
          {row.done === false && <span className="text-saffron"> · not done</span>}
        </span>
      );
    case 'running':
      return <State ink="now">writing now</State>;
    case 'waiting':
      return <State ink="hand">{counted(row.result?.waiting ?? 0, 'answer')} to be marked</State>;
    case 'ready':
      return <State ink="plain">{row.preliminary ? 'ready; sees a preliminary score' : 'ready'}</State>;
    case 'excused':
      return <State ink="plain">excused</State>;
    case 'took-part':
      return <State ink="done">took part</State>;
    case 'not-handed-in':
      return (
        <>
          <State ink="plain">{stateName('not-handed-in', purpose)}</State>
          {makeUpHref && (
            <TextLink href={makeUpHref} className="ml-2 text-sm" aria-label={`Was ill: ${row.name}`}>
              Was ill
            </TextLink>
          )}
        </>
      );
  }
}
