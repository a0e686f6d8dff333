'use client';
import Link from 'next/link';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { day, hour, type Instant, instantFromLocal, localFromInstant, minute } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { closesFor } from '@/core/sitting/clock';
import {
  type Arrangement,
  type AttemptCounts,
  attemptCountingNames,
  attemptCountings,
  type SittingRules,
} from '@/core/sitting/rules';
import type { OpenSitting } from '@/server/sitting/sittings';
import { LooksSaid } from '../exam/LooksSaid';
import { Button, ButtonLink } from '../kit/Button';
import { Done } from '../kit/Done';
import { inputShape } from '../kit/Field';
import { PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { Timeline } from '../kit/Timeline';
import { type Command, usePerform } from '../kit/usePerform';
import { GiveAgain } from './GiveAgain';
import { Phase } from './phase';
import { Inline, Ticks } from './SentenceFields';
import { SittingStudents } from './SittingStudents';

export type SittingCommands = {
  save: Command<[input: unknown], null>;
  schedule: Command<[], { students: number }>;
  arrange: Command<[userId: string, input: unknown], null>;
  again: Command<[firstDay: string], { sittingId: string }>;
};

type Props = {
  base: string;
  now: Instant;
  mayChange: boolean;
  /** Of the sitting itself only what the page shows. */
  sitting: SittingRules & Pick<OpenSitting['sitting'], 'id' | 'examId' | 'title' | 'anonymous' | 'state'>;
  open: Omit<OpenSitting, 'sitting'>;
  commands: SittingCommands;
};

/** What the fields hold while they are edited. Moments are local to the course's zone. */
type Entered = {
  title: string;
  opens: string;
  lastStart: string;
  due: string;
  closes: string;
  timeLimitMinutes: string;
  attemptsAllowed: string;
  attemptCounts: AttemptCounts;
  sectionIds: string[];
  markerIds: string[];
};

const momentFields = ['opens', 'lastStart', 'due', 'closes'] as const;

/** A sitting: its timeline, its rules as sentences, what keeps it from being scheduled, and who takes it. */
export function SittingPage({ base, now, mayChange, sitting, open, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const { timeZone } = open;
  const [entered, setEntered] = useState<Entered>(() => {
    const local = (at: Instant | null) => (at === null ? '' : localFromInstant(at, timeZone));
    return {
      title: sitting.title,
      opens: local(sitting.opens),
      lastStart: local(sitting.lastStart),
      due: local(sitting.due),
      closes: local(sitting.closes),
      timeLimitMinutes: sitting.timeLimit === null ? '' : String(sitting.timeLimit / minute),
      attemptsAllowed: sitting.attemptsAllowed === null ? '' : String(sitting.attemptsAllowed),
      attemptCounts: sitting.attemptCounts,
      sectionIds: open.sectionIds,
      markerIds: open.markers.filter((marker) => marker.assigned).map((marker) => marker.userId),
    };
  });
  const [dirty, setDirty] = useState(false);
  const [done, setDone] = useState('');
  const change = (part: Partial<Entered>) => {
    setEntered({ ...entered, ...part });
    setDirty(true);
  };
  const number = (text: string) => (text.trim() === '' ? null : Number(text));
  const save = () =>
    perform(
      () =>
        commands.save({
          ...entered,
          timeLimitMinutes: number(entered.timeLimitMinutes),
          attemptsAllowed: number(entered.attemptsAllowed),
        }),
      () => setDirty(false),
    );
  const schedule = async () => {
    if (dirty && !(await save())) return;
    await perform(
      () => commands.schedule(),
      ({ students }) => setDone(`It is scheduled, and ${counted(students, 'student has', 'students have')} been told.`),
    );
  };
  const blocking = [
    ...open.problems.map((problem) => problem.message),
    ...open.planProblems.map((problem) => problem.message),
  ];
  const isDraft = sitting.state === 'draft';
  /** Never the same day: the day after the opening, at the same hour; without an opening, a week from now at a full hour. */
  const proposedClosing = () => {
    const opens = instantFromLocal(entered.opens, timeZone);
    return localFromInstant(opens !== null ? opens + day : Math.ceil((now + 7 * day) / hour) * hour, timeZone);
  };

  return (
    <div className="min-w-0">
      <PageTitle
        title={sitting.title}
        note={
          <>
            <Phase phase={open.phase} /> · a sitting of{' '}
            <Link href={`${base}/exams/${sitting.examId}`} className="text-prussian underline">
              {open.examTitle}
            </Link>{' '}
            · {open.questions} questions, {pointsText(open.points)} points
          </>
        }
      >
        {!isDraft && !sitting.anonymous && (
          <ButtonLink href={`${base}/sittings/${sitting.id}/print`}>Print papers</ButtonLink>
        )}
        {!isDraft && <ButtonLink href={`${base}/sittings/${sitting.id}/results`}>Results</ButtonLink>}
        {mayChange && !isDraft && <GiveAgain base={base} again={commands.again} />}
        {mayChange && (
          <Button
            look={!isDraft && dirty ? 'main' : 'plain'}
            disabled={busy}
            whyNot={dirty ? null : 'Nothing has been changed since they were saved.'}
            onClick={() => void save()}
          >
            {dirty ? 'Save the rules' : 'Rules saved'}
          </Button>
        )}
        {mayChange && isDraft && (
          <Button
            look="main"
            disabled={busy}
            whyNot={!dirty && blocking.length ? 'Mend what is listed under “Before it can be scheduled”.' : null}
            onClick={() => void schedule()}
          >
            Schedule
          </Button>
        )}
      </PageTitle>
      {mayChange && (
        <div className="-mt-3 mb-3 empty:hidden">
          <LooksSaid
            href={`${base}/exams/${sitting.examId}/look`}
            looks={open.looks}
            remarks={open.remarks}
            mayAsk={isDraft}
          />
        </div>
      )}
      {done && (
        <Done className="mb-3" onUndo={null}>
          {done}
        </Done>
      )}
      <Sheet className="mb-4 px-4 pt-2">
        {sitting.opens !== null || sitting.closes !== null ? (
          <Timeline points={timelinePoints(sitting, open.audience)} now={now} zone={timeZone} />
        ) : (
          <p className="pb-2 text-ink-2">The timeline appears here once it opens or closes at some time.</p>
        )}
      </Sheet>
      <div className="grid items-start gap-4 lg:grid-cols-[1.1fr_1fr]">
        <div className="space-y-4">
          <Sheet label="Rules" className="px-5 py-4">
            <fieldset disabled={!mayChange} className="space-y-3 leading-10">
              <legend className="sr-only">Rules of the sitting</legend>
              <p>
                It is called{' '}
                <Inline
                  label="Title"
                  wide
                  value={entered.title}
                  onChange={(title) => change({ title })}
                  problem={problemAt(problems, 'title')}
                />
              </p>
              <p>
                It opens{' '}
                <Inline
                  label="Opens"
                  type="datetime-local"
                  value={entered.opens}
                  onChange={(opens) => change({ opens })}
                  problem={problemAt(problems, 'opens')}
                />{' '}
                and closes{' '}
                <Inline
                  label="Closes"
                  type="datetime-local"
                  value={entered.closes}
                  onChange={(closes) => change({ closes })}
                  problem={problemAt(problems, 'closes')}
                />
                .{' '}
                {entered.closes === '' && mayChange && (
                  <button
                    type="button"
                    className="text-sm text-prussian underline"
                    onClick={() => change({ closes: proposedClosing() })}
                  >
                    propose a closing
                  </button>
                )}
              </p>
              <p>
                It can be started until{' '}
                <Inline
                  label="Last start"
                  type="datetime-local"
                  value={entered.lastStart}
                  onChange={(lastStart) => change({ lastStart })}
                  problem={problemAt(problems, 'lastStart')}
                />
                ; work is late after{' '}
                <Inline
                  label="Due"
                  type="datetime-local"
                  value={entered.due}
                  onChange={(due) => change({ due })}
                  problem={problemAt(problems, 'due')}
                />
                . <span className="text-sm text-ink-2">Empty: until it closes. Times in {timeZone}.</span>
              </p>
              <p>
                Each student has{' '}
                <Inline
                  label="Minutes"
                  narrow
                  value={entered.timeLimitMinutes}
                  onChange={(timeLimitMinutes) => change({ timeLimitMinutes })}
                  problem={problemAt(problems, 'timeLimitMinutes') ?? problemAt(problems, 'timeLimit')}
                />{' '}
                minutes from their start <span className="text-sm text-ink-2">(empty: no limit)</span> and{' '}
                <Inline
                  label="Attempts"
                  narrow
                  value={entered.attemptsAllowed}
                  onChange={(attemptsAllowed) => change({ attemptsAllowed })}
                  problem={problemAt(problems, 'attemptsAllowed')}
                />{' '}
                {entered.attemptsAllowed === '1' ? 'attempt' : 'attempts'}{' '}
                <span className="text-sm text-ink-2">(empty: unlimited)</span>
                {entered.attemptsAllowed !== '1' && (
                  <>
                    ;{' '}
                    <select
                      aria-label="Which attempt counts"
                      value={entered.attemptCounts}
                      onChange={(event) => change({ attemptCounts: event.target.value as AttemptCounts })}
                      className={`${inputShape} !w-auto`}
                    >
                      {attemptCountings.map((one) => (
                        <option key={one} value={one}>
                          {attemptCountingNames[one]}
                        </option>
                      ))}
                    </select>
                  </>
                )}
                .
              </p>
              <p className="leading-7">
                When the time is over, what was entered is handed in by itself. Students see their score once you
                publish it.
              </p>
              <div className="leading-7">
                <p>It is given to</p>
                <Ticks
                  options={[{ id: '', name: 'the whole course' }, ...open.sections]}
                  isOn={(id) => (id === '' ? entered.sectionIds.length === 0 : entered.sectionIds.includes(id))}
                  onSet={(id, on) =>
                    change({
                      sectionIds:
                        id === ''
                          ? []
                          : on
                            ? [...entered.sectionIds, id]
                            : entered.sectionIds.filter((one) => one !== id),
                    })
                  }
                />
              </div>
              {open.markers.length > 0 && (
                <div className="leading-7">
                  <p>Besides the instructors, written answers are marked by</p>
                  <Ticks
                    options={open.markers.map((marker) => ({ id: marker.userId, name: marker.name }))}
                    isOn={(id) => entered.markerIds.includes(id)}
                    onSet={(id, on) =>
                      change({
                        markerIds: on ? [...entered.markerIds, id] : entered.markerIds.filter((one) => one !== id),
                      })
                    }
                  />
                </div>
              )}
            </fieldset>
            <Problems
              problems={problemsBesides(problems, [
                'title',
                'timeLimitMinutes',
                'timeLimit',
                'attemptsAllowed',
                ...momentFields,
              ])}
              className="mt-3"
            />
          </Sheet>
          {isDraft && (
            <Sheet label="Before it can be scheduled" className="px-5 py-3">
              <h2 className="text-lg">Before it can be scheduled</h2>
              {dirty ? (
                <p className="text-ink-2">Save the rules to check them.</p>
              ) : blocking.length === 0 ? (
                <p className="text-pine">
                  Nothing stands in the way. Scheduling tells {open.audience.length} students by message and pins the
                  exam as it is now.
                </p>
              ) : (
                <ul className="list-disc pl-5 text-brick">
                  {blocking.map((message) => (
                    <li key={message}>{message}</li>
                  ))}
                </ul>
              )}
            </Sheet>
          )}
        </div>
        <SittingStudents
          rules={sitting}
          students={open.audience}
          timeZone={timeZone}
          mayChange={mayChange}
          arrange={commands.arrange}
          papers={mayChange && !isDraft && !sitting.anonymous ? `${base}/sittings/${sitting.id}/papers` : null}
        />
      </div>
    </div>
  );
}

/** Opening, last start, due, closing, and the latest that anyone with more time may still be writing. */
function timelinePoints(
  rules: SittingRules,
  students: { arrangement: Arrangement }[],
): { at: Instant; label: string }[] {
  const named = { opens: 'opens', lastStart: 'last start', due: 'due', closes: 'closes' };
  const points = momentFields.flatMap((field) =>
    rules[field] === null ? [] : [{ at: rules[field], label: named[field] }],
  );
  const later = students.flatMap((student) => closesFor(rules, student.arrangement) ?? []);
  const latest = Math.max(...later, rules.closes ?? Number.NEGATIVE_INFINITY);
  if (rules.closes !== null && latest > rules.closes) points.push({ at: latest, label: 'extra time ends' });
  return points;
}
