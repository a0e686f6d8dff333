import type { ReactNode } from 'react';
import { durationText, momentText } from '@/core/base/time';
import { oneOrMany } from '@/core/base/words';
import type { Desk as DeskToday, NextStep } from '@/server/desk/desk';
import { type GiveUpSheet, Unfinished } from '../keep/Unfinished';
import { Link } from '../kit/Link';
import { PageFrame, PageTitle } from '../kit/Page';
import { TermLine } from '../kit/TermLine';
import { TextLink } from '../kit/TextLink';

type Props = { base: string; desk: DeskToday } & GiveUpSheet;

const steps: Record<NextStep, { path: string; name: string; what: string }> = {
  people: { path: '/people', name: 'Add your class', what: 'from a list, or one by one' },
  banks: { path: '/banks', name: 'Write a few questions', what: 'or bring in what you have' },
  exams: { path: '/exams', name: 'Compose an exam', what: 'from the questions of your bank' },
  sittings: { path: '/exams', name: 'Give the exam to the class', what: 'when, how long, how often' },
};

/** What needs the person now, the most pressing first: a count, what it is about, and the way there. */
export function Desk({ base, desk, giveUpDraft }: Props) {
  const {
    open,
    closingSoon,
    decisions,
    replies,
    coming,
    drafts,
    remarks,
    next,
    line,
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
    next === null &&
    [open, closingSoon, decisions, replies, drafts, marking, looks, remarks, readyToPublish, changedSince].every(
      (lines) => lines.length === 0,
    );
  const today = momentText(now, timeZone);
  return (
    <PageFrame>
      <PageTitle
        title="Desk"
        note={
          <>
            {today} ({timeZone})
            {role !== 'guest' && (
              <>
                {' · '}
                <TextLink href={`${base}/done`}>Done lately</TextLink>
                {role === 'instructor' && next === null && (
                  <>
                    {' · '}
                    <TextLink href={`${base}/rounds`}>Begin a round</TextLink>
                  </>
                )}
              </>
            )}
          </>
        }
      />
      {line && <TermLine line={line} zone={timeZone} now={now} base={`${base}/sittings`} />}
      {next && (
        <p className="mb-5 border-l-2 border-prussian pl-3">
          Next: <TextLink href={base + steps[next].path}>{steps[next].name}</TextLink>
          <span className="text-ink-2">, {steps[next].what}</span>
        </p>
      )}
      <div className="space-y-6">
        <Unfinished
          zone={timeZone}
          base={base}
          sheets={unsaved}
          giveUpDraft={giveUpDraft}
          otherwise={nothing ? <p className="text-ink-2">{nothingSaid[role] ?? nothingSaid.instructor}</p> : null}
        />
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
              key={one.path}
              href={`${base}${one.path}`}
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
        <Group title="Remarks of colleagues" ink="text-saffron">
          {remarks.map((one) => (
            <Line
              key={one.examId}
              href={`${base}/exams/${one.examId}/look`}
              count={one.count}
              unit={oneOrMany(one.count, 'open remark')}
              title={one.title}
              note={`${one.by}: ${one.text.length > 80 ? `${one.text.slice(0, 80)} …` : one.text}`}
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
    </PageFrame>
  );
}

const nothingSaid: Partial<Record<DeskToday['role'], string>> = {
  instructor: 'Nothing needs you now.',
  guest: 'You can read the course’s exams under Exams and its results, without names, under Sittings.',
  marker: 'When answers are assigned to you for marking, they stand here.',
};

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
