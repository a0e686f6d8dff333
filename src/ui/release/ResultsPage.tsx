'use client';
import Link from 'next/link';
import { useState } from 'react';
import { strokesAtLength } from '@/core/attempt/strokesInShort';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import { counted, oneOrMany } from '@/core/base/words';
import type { PublishingNumbers as Numbers } from '@/server/release/publish';
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

type Props = {
  base: string;
  sittingId: string;
  results: Results;
  numbers: Numbers;
  mayPublish: boolean;
  publish: Command<[expected: number], { published: number }>;
  withdraw: Command<[], { withdrawn: number }>;
};

const columns = [
  { key: 'name', name: 'Student', sortable: true },
  { key: 'section', name: 'Section' },
  { key: 'paper', name: 'Paper' },
  { key: 'score', name: 'Score', right: true, sortable: true },
  { key: 'percent', name: '%', right: true },
  { key: 'minutes', name: 'Minutes', right: true },
  { key: 'receipt', name: 'Receipt' },
  { key: 'state', name: 'State' },
];

/** The results of a sitting: a row for each student, and publishing with its numbers said before. */
export function ResultsPage({ base, sittingId, results, numbers, mayPublish, publish, withdraw }: Props) {
  const { perform, problems, busy } = usePerform();
  const [asking, setAsking] = useState<'publish' | 'withdraw' | null>(null);
  const [done, setDone] = useState('');
  const [find, setFind] = useState('');
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const share = (row: Row) => (row.result && row.result.possible > 0 ? row.result.earned / row.result.possible : -1);
  const shown = results.rows.filter((row) => holds(find, row.name, row.section));
  if (sorted.by === 'score') shown.sort((a, b) => share(a) - share(b));
  if (sorted.down) shown.reverse();
  const hasSections = results.rows.some((row) => row.section);
  return (
    <div className="min-w-0">
      <PageTitle title={`Results: ${results.title}`} note={<Phase phase={results.phase} />}>
        <ButtonLink href={`${base}/sittings/${sittingId}`}>Rules and students</ButtonLink>
        <ButtonLink href={`${base}/sittings/${sittingId}/answers`}>Answers</ButtonLink>
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
            {numbers.ready > 0 ? `Publish ${counted(numbers.ready, 'result')}` : 'Publish'}
          </Button>
        )}
      </PageTitle>
      <p className="mb-3">{numbersSentence(numbers)}</p>
      {results.document && <PaperDocument {...results.document} />}
      <Problems problems={problems} className="mb-3" />
      {done && (
        <p role="status" className="mb-3 text-pine">
          {done}
        </p>
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
        <RowTable
          label="Results, listed"
          columns={columns.filter((column) => hasSections || column.key !== 'section')}
          rows={shown}
          sorted={sorted}
          onSort={setSorted}
        >
          {(row) => (
            <tr key={row.userId || row.name} className={tableRow}>
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
                {row.result?.ready && row.result.possible > 0
                  ? roundHalfUp((row.result.earned / row.result.possible) * 100, 1)
                  : ''}
              </td>
              <td className="text-right">{row.minutes}</td>
              <td className="font-mono text-sm text-ink-2">{row.receipt}</td>
              <td>
                <RowState row={row} timeZone={results.timeZone} />
              </td>
            </tr>
          )}
        </RowTable>
      </Sheet>
      {asking === 'publish' && (
        <Decision
          title={`Publish ${counted(numbers.ready, 'result')}?`}
          act="Publish"
          busy={busy}
          onClose={() => setAsking(null)}
          onAct={() =>
            void perform(
              () => publish(numbers.ready),
              ({ published }) =>
                setDone(
                  `${counted(published, 'result has', 'results have')} been published, and the students were told.`,
                ),
            ).then(() => setAsking(null))
          }
        >
          <p>
            {counted(numbers.ready, 'student sees', 'students see')} their score at once and{' '}
            {oneOrMany(numbers.ready, 'gets', 'get')} a message.
          </p>
          {results.phase === 'open' && (
            <p className="text-saffron">
              The sitting is still open: whoever has not handed in yet can hear of these results.
            </p>
          )}
          {numbers.changed > 0 && <p>{numbers.changed} of them have seen a different score before.</p>}
          {numbers.stillToMark > 0 && <p>{numbers.stillToMark} still wait for marks and stay unpublished.</p>}
          {numbers.notHandedIn + numbers.running > 0 && (
            <p>{numbers.notHandedIn + numbers.running} have not handed in.</p>
          )}
        </Decision>
      )}
      {asking === 'withdraw' && (
        <Decision
          title="Withdraw what was published?"
          act={`Withdraw ${numbers.published}`}
          look="grave"
          busy={busy}
          onClose={() => setAsking(null)}
          onAct={() =>
            void perform(
              () => withdraw(),
              ({ withdrawn }) => setDone(`${counted(withdrawn, 'result has', 'results have')} been withdrawn.`),
            ).then(() => setAsking(null))
          }
        >
          <p>
            {numbers.published} students no longer see their score, and it leaves the gradebook. You can publish again
            at any time.
          </p>
        </Decision>
      )}
    </div>
  );
}

/** A score; while answers wait for marks it says that it is not the last word. */
function Score({ result }: { result: { earned: number; possible: number; waiting: number } }) {
  const text = `${pointsText(result.earned)} of ${pointsText(result.possible)}`;
  return result.waiting > 0 ? <span className="text-ink-2">{text} so far</span> : text;
}

function numbersSentence(numbers: Numbers): string {
  const said = [
    numbers.published > 0 && `${numbers.published} published`,
    `${numbers.ready} ready to publish${numbers.changed > 0 ? ` (${numbers.changed} changed since published)` : ''}`,
    numbers.stillToMark > 0 && `${numbers.stillToMark} still to be marked`,
    numbers.running > 0 && `${numbers.running} writing now`,
    numbers.notHandedIn > 0 && `${numbers.notHandedIn} not handed in`,
  ];
  return `${said.filter(Boolean).join(', ')}.`;
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
      </span>
    );
  if (row.state === 'excused') return <State ink="plain">excused</State>;
  if (row.state === 'running') return <State ink="now">writing now</State>;
  if (!row.result) return <State ink="plain">not handed in</State>;
  if (row.result.waiting > 0) return <State ink="hand">{counted(row.result.waiting, 'answer')} to be marked</State>;
  return <State ink="plain">ready</State>;
}
