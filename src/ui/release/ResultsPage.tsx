'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState } from 'react';
import { strokesAtLength } from '@/core/attempt/strokesInShort';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { statisticsOf } from '@/core/gradebook/statistics';
import { publishingNumbers } from '@/core/release/publishingNumbers';
import type { ReplyToRead } from '@/server/release/replies';
import type { ResultsPage as Results, ResultRow as Row } from '@/server/release/results';
import { Button, ButtonLink } from '../kit/Button';
import { Decision } from '../kit/Decision';
import { Find, holds } from '../kit/Find';
import { PageTitle, Sheet, State } from '../kit/Page';
import { PaperDocument } from '../kit/PaperDocument';
import { PaperRuler } from '../kit/PaperRuler';
import { Problems } from '../kit/Problems';
import { RowTable, type Sorted, tableRow } from '../kit/RowTable';
import { type Command, usePerform } from '../kit/usePerform';
import { Phase } from '../sitting/phase';
import { PickStudents } from './PickStudents';
import { numbersSentence, PublishDecision } from './Publishing';
import { ResultViews } from './ResultViews';

const DistributionChart = dynamic(() => import('./DistributionChart'), { ssr: false });

export type ResultsCommands = {
  publish: Command<[input: unknown], { published: number }>;
  withdraw: Command<[userIds?: string[]], { withdrawn: number }>;
  write: Command<[input: unknown], { sent: number }>;
  read: Command<[], { read: number }>;
};

type Props = {
  base: string;
  sittingId: string;
  results: Results;
  replies: readonly ReplyToRead[];
  mayPublish: boolean;
  commands: ResultsCommands;
};

const columns = [
  { key: 'picked', name: 'Picked', quiet: true },
  { key: 'name', name: 'Student', sortable: true },
  { key: 'section', name: 'Section' },
  { key: 'paper', name: 'Paper' },
  { key: 'score', name: 'Score', right: true, sortable: true },
  { key: 'percent', name: '%', right: true },
  { key: 'band', name: 'Band' },
  { key: 'minutes', name: 'Minutes', right: true, sortable: true },
  { key: 'attempts', name: 'Attempts', right: true },
  { key: 'receipt', name: 'Receipt' },
  { key: 'state', name: 'State' },
];

const shareOf = (row: Row) => (row.result && row.result.possible > 0 ? row.result.earned / row.result.possible : -1);
const percentOf = (row: Row) => (shareOf(row) < 0 ? null : shareOf(row) * 100);

/** The results of a sitting: a row for each student, their distribution, and publishing with its numbers said before. */
export function ResultsPage({ base, sittingId, results, replies, mayPublish, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [asking, setAsking] = useState<'publish' | 'publish-picked' | 'withdraw' | 'withdraw-picked' | null>(null);
  const [done, setDone] = useState('');
  const [find, setFind] = useState('');
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const numbers = publishingNumbers(results.rows);
  const shown = results.rows.filter((row) => holds(find, row.name, row.section));
  if (sorted.by === 'score') shown.sort((a, b) => shareOf(a) - shareOf(b));
  if (sorted.by === 'minutes') shown.sort((a, b) => (a.minutes ?? -1) - (b.minutes ?? -1));
  if (sorted.down) shown.reverse();
  const hasSections = results.rows.some((row) => row.section);
  const hasBands = results.rows.some((row) => row.band);
  const hasAttempts = results.rows.some((row) => row.attempts > 1);
  const percents = results.rows.flatMap((row) => (row.result?.ready ? (percentOf(row) ?? []) : []));
  const statistics = statisticsOf(percents);
  const chosen = results.rows.filter((row) => picked.has(row.userId));
  const pickedNumbers = publishingNumbers(chosen);
  const toWithdraw = asking === 'withdraw-picked' ? pickedNumbers.published : numbers.published;
  const unread = replies.filter((one) => one.readAt === null);
  const here = `${base}/sittings/${sittingId}`;
  const publish = (some: readonly Row[] | null, showAtOnce: boolean) =>
    perform(
      () =>
        commands.publish({
          expected: some ? pickedNumbers.ready : numbers.ready,
          ...(some ? { userIds: some.map((row) => row.userId) } : {}),
          ...(showAtOnce ? { showAtOnce } : {}),
        }),
      ({ published }) =>
        setDone(`${counted(published, 'result has', 'results have')} been published, and the students were told.`),
    ).then(() => setAsking(null));
  return (
    <div className="min-w-0">
      <PageTitle title={`Results: ${results.title}`} note={<Phase phase={results.phase} />}>
        <ButtonLink href={here}>Rules and students</ButtonLink>
        {mayPublish && !results.purpose.anonymous && (
          <>
            <ButtonLink href={`${here}/as-student`}>As a student</ButtonLink>
            <ButtonLink href={`${here}/sheets`}>Feedback sheets</ButtonLink>
            <ButtonLink href={`${here}/results/printed`}>Reports</ButtonLink>
          </>
        )}
        {mayPublish && numbers.published > 0 && (
          <Button look="grave" onClick={() => setAsking('withdraw')}>
            Withdraw
          </Button>
        )}
        {mayPublish && (
          <Button
            look="main"
            whyNot={numbers.ready === 0 ? 'No result is ready that is not published already.' : null}
            onClick={() => setAsking('publish')}
          >
            {numbers.ready === 0
              ? 'Publish'
              : numbers.changed === numbers.ready
                ? `Publish ${counted(numbers.changed, 'change')}`
                : `Publish ${counted(numbers.ready, 'result')}`}
          </Button>
        )}
      </PageTitle>
      {!results.purpose.anonymous && <ResultViews here={here} now="results" />}
      <p className="mb-3">
        {numbersSentence(numbers)} {results.selfSaid && <span className="text-ink-2">{results.selfSaid}</span>}
      </p>
      {numbers.changed > 0 && mayPublish && (
        <p className="mb-3 bg-saffron-wash px-4 py-2 text-saffron">
          {counted(numbers.changed, 'result differs', 'results differ')} from what was published.{' '}
          <button type="button" className="underline" onClick={() => setAsking('publish')}>
            Look and publish the changes
          </button>
        </p>
      )}
      {results.document && <PaperDocument {...results.document} />}
      <Problems problems={problems} className="mb-3" />
      {done && (
        <p role="status" className="mb-3 text-pine">
          {done}
        </p>
      )}
      {unread.length > 0 && (
        <details className="mb-3 border border-line bg-sheet px-5 py-2">
          <summary className="font-medium text-saffron">
            {counted(unread.length, 'reply', 'replies')} to the feedback, not read yet
          </summary>
          <ul>
            {unread.map((one) => (
              <li key={one.id} className="mt-1 border-t border-line py-2">
                <Link
                  href={`${base}/marking/${sittingId}/students/${one.userId}`}
                  className="font-medium hover:underline"
                >
                  {one.name}
                </Link>{' '}
                <span className="text-sm text-ink-2">{momentText(one.at, results.timeZone)}</span>
                <p className="whitespace-pre-wrap">{one.text}</p>
              </li>
            ))}
          </ul>
          <Button
            className="my-1"
            onClick={() =>
              void perform(
                () => commands.read(),
                () => setDone('Marked as read; the students see that.'),
              )
            }
          >
            All read
          </Button>
        </details>
      )}
      {statistics && statistics.n >= 3 && (
        <Sheet label="Distribution" className="mb-4 grid items-center gap-x-6 px-5 py-3 md:grid-cols-[1fr_15rem]">
          <DistributionChart percents={percents} />
          <dl className="grid grid-cols-[1fr_auto] gap-x-4 text-sm">
            {(
              [
                ['Mean', statistics.mean],
                ['Median', statistics.median],
                ['Standard deviation', statistics.deviation],
                ['Lowest', statistics.least],
                ['Highest', statistics.most],
              ] as const
            ).map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="text-ink-2">{name}</dt>
                <dd className="text-right tabular-nums">{roundHalfUp(value, 1)} %</dd>
              </div>
            ))}
            <dt className="text-ink-2">Completely marked</dt>
            <dd className="text-right tabular-nums">{statistics.n}</dd>
          </dl>
        </Sheet>
      )}
      <Sheet label="Results by student">
        <Find
          label="Find students"
          placeholder="Find by name or section"
          value={find}
          onChange={setFind}
          said={
            shown.length === results.rows.length
              ? counted(results.rows.length, 'student')
              : `${shown.length} of ${counted(results.rows.length, 'student')}; publishing acts on all of them`
          }
        />
        {mayPublish && (
          <PickStudents
            students={results.rows.map((row) => ({
              userId: row.userId,
              name: row.name,
              section: row.section,
              percent: percentOf(row),
              waiting: row.result?.waiting ?? 0,
              missed: nothing,
            }))}
            questions={[]}
            picked={picked}
            onPick={setPicked}
            title={results.title}
            write={commands.write}
            onDone={setDone}
          />
        )}
        {picked.size > 0 && (pickedNumbers.ready > 0 || pickedNumbers.published > 0) && (
          <p className="flex flex-wrap gap-x-4 border-b border-line px-4 py-2">
            <span>
              Of those picked, {pickedNumbers.ready} ready to publish, {pickedNumbers.published} published:
            </span>
            {pickedNumbers.ready > 0 && (
              <button type="button" className="text-prussian underline" onClick={() => setAsking('publish-picked')}>
                publish only these
              </button>
            )}
            {pickedNumbers.published > 0 && (
              <button type="button" className="text-brick underline" onClick={() => setAsking('withdraw-picked')}>
                withdraw only these
              </button>
            )}
          </p>
        )}
        <RowTable
          label="Results, listed"
          columns={columns.filter(
            ({ key }) =>
              (hasSections || key !== 'section') &&
              (hasBands || key !== 'band') &&
              (hasAttempts || key !== 'attempts') &&
              (mayPublish || key !== 'picked'),
          )}
          rows={shown}
          sorted={sorted}
          onSort={setSorted}
        >
          {(row) => (
            <tr key={row.userId || row.name} className={tableRow}>
              {mayPublish && (
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
                      setPicked(next);
                    }}
                  />
                </td>
              )}
              <td className="font-medium whitespace-nowrap">
                {mayPublish && row.userId && row.receipt ? (
                  <Link
                    href={`${base}/marking/${sittingId}/students/${row.userId}`}
                    prefetch={false}
                    className="hover:underline"
                    title="The paper with its marks"
                  >
                    {row.name}
                  </Link>
                ) : (
                  row.name
                )}
              </td>
              {hasSections && <td className="text-ink-2">{row.section}</td>}
              <td>
                {row.strokes.length > 0 && (
                  <PaperRuler size="line" strokes={strokesAtLength(row.strokes)} label={`Paper of ${row.name}`} />
                )}
                {row.strokes.length === 0 && row.paper && (
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
              <td className="text-right">{row.minutes}</td>
              {hasAttempts && (
                <td
                  className="text-right whitespace-nowrap"
                  title={row.counts ? `attempt ${row.counts} counts` : undefined}
                >
                  {row.attempts > 0 && row.attempts}
                  {row.attempts > 1 && row.counts && <span className="text-sm text-ink-2"> · {row.counts} counts</span>}
                </td>
              )}
              <td className="font-mono text-sm text-ink-2">{row.receipt}</td>
              <td>
                <RowState row={row} timeZone={results.timeZone} />
              </td>
            </tr>
          )}
        </RowTable>
      </Sheet>
      {(asking === 'publish' || asking === 'publish-picked') && (
        <PublishDecision
          results={results}
          numbers={asking === 'publish' ? numbers : pickedNumbers}
          chosen={asking === 'publish' ? null : chosen}
          busy={busy}
          onClose={() => setAsking(null)}
          onAct={(showAtOnce) => void publish(asking === 'publish' ? null : chosen, showAtOnce)}
        />
      )}
      {(asking === 'withdraw' || asking === 'withdraw-picked') && (
        <Decision
          title="Withdraw what was published?"
          act={`Withdraw ${toWithdraw}`}
          look="grave"
          busy={busy}
          onClose={() => setAsking(null)}
          onAct={() =>
            void perform(
              () => commands.withdraw(asking === 'withdraw' ? undefined : [...picked]),
              ({ withdrawn }) => setDone(`${counted(withdrawn, 'result has', 'results have')} been withdrawn.`),
            ).then(() => setAsking(null))
          }
        >
          <p>
            {counted(toWithdraw, 'student no longer sees', 'students no longer see')} what was published, and it leaves
            the gradebook. You can publish again at any time.
          </p>
          {results.selfSaid && <p>It does not publish itself again for these students.</p>}
        </Decision>
      )}
    </div>
  );
}

const nothing: ReadonlySet<string> = new Set();

/** A score; while answers wait for marks it says that it is not the last word. */
function Score({ result }: { result: { earned: number; possible: number; waiting: number } }) {
  const text = `${pointsText(result.earned)} of ${pointsText(result.possible)}`;
  return result.waiting > 0 ? <span className="text-ink-2">{text} so far</span> : text;
}

function RowState({ row, timeZone }: { row: Row; timeZone: string }) {
  if (row.changed)
    return (
      <State ink="waits">
        changed; published {pointsText(row.published?.earned ?? 0)} of {pointsText(row.published?.possible ?? 0)}
      </State>
    );
  if (row.published)
    return (
      <span title={momentText(row.published.publishedAt, timeZone)}>
        <State ink="done">published</State>
        {row.done === true && <span className="text-pine"> · done</span>}
        {row.done === false && <span className="text-saffron"> · not done</span>}
      </span>
    );
  if (row.state === 'excused') return <State ink="plain">excused</State>;
  if (row.state === 'running') return <State ink="now">writing now</State>;
  if (!row.result) return <State ink="plain">not handed in</State>;
  if (row.result.waiting > 0) return <State ink="hand">{counted(row.result.waiting, 'answer')} to be marked</State>;
  return <State ink="plain">{row.preliminary ? 'ready; sees a preliminary score' : 'ready'}</State>;
}
