'use client';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { waitingCount, waitingSaid } from '@/core/attempt/waiting';
import { roundHalfUp } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import { counted, listed } from '@/core/base/words';
import { statisticsOf } from '@/core/gradebook/statistics';
import { publishingNumbers } from '@/core/release/publishingNumbers';
import type { ReplyToRead } from '@/server/release/replies';
import type { ResultsPage as Results, ResultRow as Row } from '@/server/release/results';
import { WordsForm } from '../keep/WordsForm';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { Link } from '../kit/Link';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { PaperDocument } from '../kit/PaperDocument';
import { Problems } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { usePerform } from '../kit/usePerform';
import { Phase } from '../sitting/phase';
import { numbersSentence, PublishDecision } from './Publishing';
import { percentOf, ResultsTable } from './ResultsTable';
import { ResultViews } from './ResultViews';

const DistributionChart = dynamic(() => import('./DistributionChart'), { ssr: false });

type ResultsCommands = Commands<
  'publishReady' | 'withdrawPublished' | 'writeToStudents' | 'readReplies' | 'answerReply' | 'setNameOrder',
  'courseId' | 'sittingId'
>;

type Props = {
  base: string;
  sittingId: string;
  results: Results;
  replies: readonly ReplyToRead[];
  mayPublish: boolean;
  commands: ResultsCommands;
};

/** How many have handed in, of whom nothing else is known. */
const tookPart = (rows: readonly Row[]): number => rows.filter((row) => row.state === 'handed-in').length;

/** The results of a sitting: a row for each student, their distribution, and publishing with its numbers said before. */
export function ResultsPage({ base, sittingId, results, replies, mayPublish, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const router = useRouter();
  const [asking, setAsking] = useState<'publish' | 'publish-picked' | 'withdraw' | 'withdraw-picked' | null>(null);
  const [done, setDone] = useState('');
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const numbers = publishingNumbers(results.rows);
  const percents = results.rows.flatMap((row) => (row.result?.ready ? (percentOf(row) ?? []) : []));
  const statistics = statisticsOf(percents);
  const chosen = results.rows.filter((row) => picked.has(row.userId));
  const pickedNumbers = publishingNumbers(chosen);
  const toWithdraw = asking === 'withdraw-picked' ? pickedNumbers.published : numbers.published;
  const unread = replies.filter((one) => one.readAt === null);
  const read = replies.filter((one) => one.readAt !== null);
  const here = `${base}/sittings/${sittingId}`;
  // Of a survey there is nothing to be published but that somebody took part, where that counts.
  const isPublished = mayPublish && !(results.purpose.anonymous && results.purpose.counts === 'no');
  const publish = (some: readonly Row[] | null, showAtOnce: boolean) =>
    perform(
      () =>
        commands.publishReady({
          expected: some ? pickedNumbers.ready : numbers.ready,
          ...(some ? { userIds: some.map((row) => row.userId) } : {}),
          ...(showAtOnce ? { showAtOnce } : {}),
        }),
      ({ published }) =>
        setDone(`${counted(published, 'result has', 'results have')} been published, and the students were told.`),
    ).then((published) => {
      setAsking(null);
      // What was looked at has changed: the next press speaks of what is so now.
      if (!published) router.refresh();
    });
  return (
    <PageFrame>
      <PageTitle
        title={`Results: ${results.title}`}
        back={{ href: here, name: 'Rules and students' }}
        note={<Phase phase={results.phase} />}
      >
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
        {isPublished && (
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
      {results.purpose.anonymous && (
        <p className="mb-3 flex flex-wrap items-center gap-4">
          {tookPart(results.rows)} of {counted(results.rows.length, 'person', 'people')} took part. Nobody can see whose
          answers are whose.
          <ButtonLink href={`${here}/answers`}>What was answered</ButtonLink>
        </p>
      )}
      <p className="mb-3">
        {!(results.purpose.anonymous && results.purpose.counts === 'no') && numbersSentence(numbers)}{' '}
        {results.selfSaid && <span className="text-ink-2">{results.selfSaid}</span>}
      </p>
      {numbers.changed > 0 && mayPublish && (
        <p className="mb-3 bg-saffron-wash px-4 py-2 text-saffron">
          {counted(numbers.changed, 'result differs', 'results differ')} from what was published.{' '}
          <button type="button" className="underline" onClick={() => setAsking('publish')}>
            Look and publish the changes
          </button>
        </p>
      )}
      {waitingCount(results.waiting) > 0 && mayPublish && (
        <p className="mb-3 bg-saffron-wash px-4 py-2 text-saffron">
          Waits for a decision: {waitingSaid(results.waiting).join('; ')}
          {results.waitingNames.length > 0 && ` (${listed(results.waitingNames)})`}.{' '}
          {results.waiting.differences > 0 && (
            <>
              <TextLink href={`${base}/marking/${sittingId}/second`}>Settle the differences</TextLink>{' '}
            </>
          )}
          {results.waiting.sheets > 0 && (
            <>
              <TextLink href={`${here}/answer-sheets/review`}>Look the sheets through</TextLink>{' '}
            </>
          )}
          {waitingCount({ ...results.waiting, differences: 0, sheets: 0 }) > 0 && (
            <TextLink href={`${here}/room`}>Decide in the room</TextLink>
          )}
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
          <ReplyList
            replies={unread}
            href={`${base}/marking/${sittingId}/students`}
            timeZone={results.timeZone}
            answer={mayPublish ? commands.answerReply : null}
            onAnswered={setDone}
          />
          <Button
            className="my-1"
            onClick={() =>
              void perform(
                () => commands.readReplies(),
                () => setDone('Marked as read; the students see that.'),
              )
            }
          >
            All read
          </Button>
        </details>
      )}
      {read.length > 0 && (
        <details className="mb-3 border border-line bg-sheet px-5 py-2">
          <summary className="text-ink-2">{counted(read.length, 'reply', 'replies')} to the feedback, read</summary>
          <ReplyList
            replies={read}
            href={`${base}/marking/${sittingId}/students`}
            timeZone={results.timeZone}
            answer={mayPublish ? commands.answerReply : null}
            onAnswered={setDone}
          />
        </details>
      )}
      {statistics && statistics.n >= 3 && (
        <Sheet
          label="Distribution"
          className="mb-4 grid items-center gap-x-6 px-5 py-3 md:grid-cols-[minmax(0,1fr)_15rem]"
        >
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
      <ResultsTable
        base={base}
        sittingId={sittingId}
        results={results}
        picked={mayPublish ? picked : null}
        onPick={setPicked}
        writeToStudents={commands.writeToStudents}
        onOrder={(order) => void perform(() => commands.setNameOrder(order))}
        onDone={setDone}
      >
        {picked.size > 0 && (pickedNumbers.ready > 0 || pickedNumbers.published > 0) && (
          <p className="flex flex-wrap gap-x-4 border-b border-line px-4 py-2">
            <span>
              Of those picked, {pickedNumbers.ready} ready to publish, {pickedNumbers.published} published:
            </span>
            {pickedNumbers.ready > 0 && (
              <TextButton onClick={() => setAsking('publish-picked')}>publish only these</TextButton>
            )}
            {pickedNumbers.published > 0 && (
              <button type="button" className="text-brick underline" onClick={() => setAsking('withdraw-picked')}>
                withdraw only these
              </button>
            )}
          </p>
        )}
      </ResultsTable>
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
              () => commands.withdrawPublished(asking === 'withdraw' ? undefined : [...picked]),
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
    </PageFrame>
  );
}

type ReplyListProps = {
  replies: Props['replies'];
  href: string;
  timeZone: string;
  /** Null for who may not. */
  answer: ResultsCommands['answerReply'] | null;
  onAnswered: (said: string) => void;
};

/** What students replied, each with the way to their paper, and what was answered or can be. */
function ReplyList({ replies, href, timeZone, answer, onAnswered }: ReplyListProps) {
  const [answering, setAnswering] = useState<string | null>(null);
  return (
    <ul>
      {replies.map((one) => (
        <li key={one.id} className="mt-1 border-t border-line py-2">
          <Link href={`${href}/${one.userId}`} className="font-medium hover:underline">
            {one.name}
          </Link>{' '}
          <span className="text-sm text-ink-2">{momentText(one.at, timeZone)}</span>
          <p className="whitespace-pre-wrap">{one.text}</p>
          {one.answer && (
            <div className="mt-1 ml-4 border-l-2 border-line pl-3">
              <p className="whitespace-pre-wrap">{one.answer.text}</p>
              <p className="text-sm text-ink-2">
                {one.answer.by}, {momentText(one.answer.at, timeZone)}
              </p>
            </div>
          )}
          {answer && !one.answer && answering !== one.id && (
            <TextButton onClick={() => setAnswering(one.id)} aria-label={`Answer ${one.name}`}>
              Answer
            </TextButton>
          )}
          {answer && !one.answer && answering === one.id && (
            <WordsForm
              label={`An answer to ${one.name}`}
              hint="It stands under their reply, and goes to them by message."
              act="Send the answer"
              of={`reply ${one.id}`}
              onSend={(text) => answer(one.id, text)}
              onSent={() => {
                setAnswering(null);
                onAnswered(`${one.name} has been answered.`);
              }}
            />
          )}
        </li>
      ))}
    </ul>
  );
}
