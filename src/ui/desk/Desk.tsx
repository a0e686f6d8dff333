import type { ReactNode } from 'react';
import { durationText, momentText } from '@/core/base/time';
import { oneOrMany } from '@/core/base/words';
import type { Desk as DeskToday } from '@/server/desk/desk';
import { type GiveUpSheet, Unfinished } from '../keep/Unfinished';
import { Link } from '../kit/Link';
import { Empty, PageTitle } from '../kit/Page';
import { TextLink } from '../kit/TextLink';

type Props = { base: string; desk: DeskToday } & GiveUpSheet;

const firstSteps = [
  { path: '/people', name: 'People', what: 'add your class from a list' },
  { path: '/banks', name: 'Banks', what: 'write a few questions, or bring in what you have' },
  { path: '/exams', name: 'Exams', what: 'compose an exam from them' },
  { path: '/sittings', name: 'Sittings', what: 'give it to the class: when, how long, how often' },
];

/** What needs the person now, the most pressing first: a count, what it is about, and the way there. */
export function Desk({ base, desk, giveUpDraft }: Props) {
  const {
    open,
    closingSoon,
    decisions,
    replies,
    coming,
    drafts,
    marking,
    looks,
    readyToPublish,
    changedSince,
    unsaved,
    notes,
    now,
    timeZone,
    role,
  } = desk;
  const nothing =
    notes === 0 &&
    [open, closingSoon, decisions, replies, coming, drafts, marking, looks, readyToPublish, changedSince].every(
      (lines) => lines.length === 0,
    );
  const today = momentText(now, timeZone);
  return (
    <div className="min-w-0">
      <PageTitle
        title="Desk"
        note={
          <>
            {today} ({timeZone})
            {role !== 'guest' && (
              <>
                {' · '}
                <TextLink href={`${base}/done`}>Done lately</TextLink>
              </>
            )}
          </>
        }
      />
      {nothing && (
        <Empty title="Nothing needs you now">
          {role === 'instructor' ? (
            <>
              <p>What waits for you will stand here. The way there, in the order of the work:</p>
              <ol className="mx-auto mt-2 w-fit list-decimal space-y-1 pl-5 text-left">
                {firstSteps.map(({ path, name, what }) => (
                  <li key={path}>
                    <TextLink href={base + path}>{name}</TextLink>: {what}
                  </li>
                ))}
              </ol>
            </>
          ) : role === 'guest' ? (
            'You can read the course’s exams under Exams and its results, without names, under Sittings.'
          ) : (
            'When answers are assigned to you for marking, they stand here.'
          )}
        </Empty>
      )}
      <div className="space-y-6">
        <Unfinished zone={timeZone} base={base} sheets={unsaved} giveUpDraft={giveUpDraft} />
        <Group title="Closing soon" ink="text-brick">
          {closingSoon.map((one) => (
            <OpenLine key={one.id} base={base} one={one} now={now} />
          ))}
        </Group>
        <Group title="Open now" ink="text-prussian">
          {open.map((one) => (
            <OpenLine key={one.id} base={base} one={one} now={now} />
          ))}
        </Group>
        <Group title="Waits for a decision" ink="text-saffron">
          {decisions.map((one) => (
            <Line
              key={one.sittingId}
              href={`${base}/sittings/${one.sittingId}/room`}
              count={one.count}
              unit={oneOrMany(one.count, 'decision')}
              title={one.title}
              note={one.says}
            />
          ))}
        </Group>
        <Group title="To be marked by hand" ink="text-plum">
          {marking.map((one) => (
            <Line
              key={`${one.sittingId}${one.questionId}`}
              href={`${base}/marking/${one.sittingId}/${one.questionId}`}
              count={one.waiting}
              unit={oneOrMany(one.waiting, 'answer waits', 'answers wait')}
              title={one.questionName}
              note={one.sittingTitle}
            />
          ))}
        </Group>
        <Group title="Asked for your look" ink="text-saffron">
          {looks.map((one) => (
            <Line
              key={one.examId}
              href={`${base}/exams/${one.examId}/look`}
              count={null}
              unit="an exam"
              title={one.title}
              note={
                one.changedSince
                  ? 'changed since you signed it off'
                  : `${one.by} asked, ${momentText(one.askedAt, timeZone)}`
              }
            />
          ))}
        </Group>
        <Group title="Ready to publish" ink="text-pine">
          {readyToPublish.map((one) => (
            <Line
              key={one.sittingId}
              href={`${base}/sittings/${one.sittingId}/results`}
              count={one.count}
              unit={oneOrMany(one.count, 'result ready', 'results ready')}
              title={one.title}
              note="completely marked, not published yet"
            />
          ))}
        </Group>
        <Group title="Changed since published" ink="text-saffron">
          {changedSince.map((one) => (
            <Line
              key={one.sittingId}
              href={`${base}/sittings/${one.sittingId}/results`}
              count={one.count}
              unit={oneOrMany(one.count, 'result differs', 'results differ')}
              title={one.title}
              note="from what students see"
            />
          ))}
        </Group>
        <Group title="Replies to feedback" ink="text-saffron">
          {replies.map((one) => (
            <Line
              key={one.sittingId}
              href={`${base}/sittings/${one.sittingId}/results`}
              count={one.count}
              unit={oneOrMany(one.count, 'reply', 'replies')}
              title={one.title}
              note="not read yet"
            />
          ))}
        </Group>
        <Group title="From the last term" ink="text-saffron">
          {notes > 0
            ? [
                <Line
                  key="notes"
                  href={`${base}/people/notes`}
                  count={notes}
                  unit={oneOrMany(notes, 'thing')}
                  title="What needs a look"
                  note="could not be taken over as it was"
                />,
              ]
            : []}
        </Group>
        <Group title="Coming" ink="text-ink">
          {coming.map((one) => (
            <Line
              key={one.id}
              href={`${base}/sittings/${one.id}`}
              count={one.students}
              unit="students"
              title={one.title}
              note={one.opens === null ? '' : `opens ${momentText(one.opens, timeZone)}`}
            />
          ))}
        </Group>
        <Group title="Not scheduled yet" ink="text-ink-2">
          {drafts.map((one) => (
            <Line
              key={one.id}
              href={`${base}/sittings/${one.id}`}
              count={null}
              unit="draft"
              title={one.title}
              note="a sitting without a fixed time"
            />
          ))}
        </Group>
      </div>
    </div>
  );
}

const OpenLine = ({ base, one, now }: { base: string; one: DeskToday['open'][number]; now: number }) => (
  <Line
    href={`${base}/sittings/${one.id}/results`}
    count={one.running}
    unit={oneOrMany(one.running, 'is writing', 'are writing')}
    title={one.title}
    note={`${one.handedIn} of ${one.students} handed in · ${one.closes === null ? 'stays open' : `closes in ${durationText(Math.floor((one.closes - now) / 60_000) * 60_000)}`}`}
  />
);

function Group({ title, ink, children }: { title: string; ink: string; children: ReactNode[] }) {
  if (children.length === 0) return null;
  return (
    <section aria-label={title}>
      <h2 className={`mb-1 text-lg ${ink}`}>{title}</h2>
      <ul className="border border-line bg-sheet">{children}</ul>
    </section>
  );
}

function Line({
  href,
  count,
  unit,
  title,
  note,
}: {
  href: string;
  count: number | null;
  unit: string;
  title: string;
  note: string;
}) {
  return (
    <li className="border-b border-line last:border-b-0">
      <Link
        href={href}
        className="grid grid-cols-[9.5rem_1fr] items-baseline gap-x-4 px-4 py-2 hover:bg-prussian-wash sm:grid-cols-[9.5rem_minmax(14rem,30rem)_1fr]"
      >
        <span className="tabular-nums">
          {count !== null && <span className="mr-1.5 inline-block min-w-7 text-right font-serif text-xl">{count}</span>}{' '}
          <span className="text-sm text-ink-2">{unit}</span>
        </span>
        <span className="min-w-0 font-medium">{title}</span>
        <span className="col-start-2 text-sm text-ink-2 sm:col-start-3">{note}</span>
      </Link>
    </li>
  );
}
