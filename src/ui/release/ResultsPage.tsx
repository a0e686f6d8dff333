'use client';
import { useState } from 'react';
import type { Stroke } from '@/core/attempt/strokes';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { type Instant, momentText } from '@/core/base/time';
import { Button, ButtonLink } from '../kit/Button';
import { Decision } from '../kit/Decision';
import { inputShape } from '../kit/Field';
import { PageTitle, Sheet, State } from '../kit/Page';
import { PaperDocument } from '../kit/PaperDocument';
import { PaperRuler } from '../kit/PaperRuler';
import { Problems } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';
import { Phase, type SittingPhase } from '../sitting/phase';

type Row = {
  userId: string;
  name: string;
  section: string | null;
  state: 'not-started' | 'running' | 'handed-in' | 'excused';
  attempts: number;
  result: { earned: number; possible: number; waiting: number; ready: boolean } | null;
  published: { earned: number; possible: number; publishedAt: Instant } | null;
  changed: boolean;
  minutes: number | null;
  receipt: string | null;
  strokes: Stroke[];
  paper: { questions: number; answered: number; right: number; waiting: number } | null;
};

type Numbers = {
  ready: number;
  changed: number;
  stillToMark: number;
  notHandedIn: number;
  running: number;
  published: number;
};

type Props = {
  base: string;
  sittingId: string;
  results: {
    title: string;
    phase: SittingPhase;
    timeZone: string;
    document: { name: string; address: string } | null;
    rows: Row[];
  };
  numbers: Numbers;
  mayPublish: boolean;
  publish: Command<[expected: number], { published: number }>;
  withdraw: Command<[], { withdrawn: number }>;
};

type Sort = 'name' | 'score';

/** The results of a sitting: a row for each student, and publishing with its numbers said before. */
export function ResultsPage({ base, sittingId, results, numbers, mayPublish, publish, withdraw }: Props) {
  const { perform, problems, busy } = usePerform();
  const [asking, setAsking] = useState<'publish' | 'withdraw' | null>(null);
  const [done, setDone] = useState('');
  const [find, setFind] = useState('');
  const [sort, setSort] = useState<Sort>('name');
  const share = (row: Row) => (row.result && row.result.possible > 0 ? row.result.earned / row.result.possible : -1);
  const wanted = find.trim().toLowerCase();
  const shown = results.rows.filter(
    (row) => row.name.toLowerCase().includes(wanted) || row.section?.toLowerCase().includes(wanted),
  );
  if (sort === 'score') shown.sort((a, b) => share(b) - share(a));
  const sortBy = (by: Sort, label: string) => (
    <button
      type="button"
      onClick={() => setSort(by)}
      className={sort === by ? 'underline' : ''}
      title={`Sort by ${label.toLowerCase()}`}
    >
      {label}
    </button>
  );
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
            {numbers.ready > 0 ? `Publish ${numbers.ready} ${numbers.ready === 1 ? 'result' : 'results'}` : 'Publish'}
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
        <div className="border-b border-line p-2">
          <input
            type="search"
            aria-label="Find students"
            placeholder="Find by name or section"
            value={find}
            onChange={(event) => setFind(event.target.value)}
            className={`${inputShape} max-w-sm`}
          />
        </div>
        <div className="overflow-x-auto">
          <table className="w-full">
            <thead>
              <tr className="border-b border-line text-left text-sm text-ink-2 [&>th]:px-3 [&>th]:py-1.5 [&>th]:font-medium">
                <th aria-sort={sort === 'name' ? 'ascending' : undefined}>{sortBy('name', 'Student')}</th>
                <th>Section</th>
                <th>Paper</th>
                <th className="text-right" aria-sort={sort === 'score' ? 'descending' : undefined}>
                  {sortBy('score', 'Score')}
                </th>
                <th className="text-right">%</th>
                <th className="text-right">Minutes</th>
                <th>Receipt</th>
                <th>State</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((row) => (
                <tr
                  key={row.userId || row.name}
                  className="h-9 border-b border-line last:border-b-0 hover:bg-paper [&>td]:px-3"
                >
                  <td className="font-medium whitespace-nowrap">{row.name}</td>
                  <td className="text-ink-2">{row.section}</td>
                  <td>
                    {row.strokes.length > 0 && (
                      <PaperRuler size="line" strokes={row.strokes} label={`Paper of ${row.name}`} />
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
              ))}
            </tbody>
          </table>
        </div>
        <p className="px-3 py-1.5 text-sm text-ink-2">
          {shown.length === results.rows.length
            ? `${results.rows.length} students`
            : `${shown.length} of ${results.rows.length} students; publishing acts on all of them`}
        </p>
      </Sheet>
      {asking === 'publish' && (
        <Decision
          title={`Publish ${numbers.ready} ${numbers.ready === 1 ? 'result' : 'results'}?`}
          act="Publish"
          busy={busy}
          onClose={() => setAsking(null)}
          onAct={() =>
            void perform(
              () => publish(numbers.ready),
              ({ published }) =>
                setDone(
                  `${published} ${published === 1 ? 'result has' : 'results have'} been published, and the students were told.`,
                ),
            ).then(() => setAsking(null))
          }
        >
          <p>
            {numbers.ready} {numbers.ready === 1 ? 'student sees' : 'students see'} their score at once and{' '}
            {numbers.ready === 1 ? 'gets' : 'get'} a message.
          </p>
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
              ({ withdrawn }) =>
                setDone(`${withdrawn} ${withdrawn === 1 ? 'result has' : 'results have'} been withdrawn.`),
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
  if (row.result.waiting > 0)
    return (
      <State ink="hand">
        {row.result.waiting} {row.result.waiting === 1 ? 'answer' : 'answers'} to be marked
      </State>
    );
  return <State ink="plain">ready</State>;
}
