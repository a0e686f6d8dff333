'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { localFromInstant } from '@/core/base/localTime';
import { type Instant, minute } from '@/core/base/time';
import { counted, pointsSaid } from '@/core/base/words';
import { completionSaid } from '@/core/gradebook/completion';
import { noSelfPublish, type ReleasePlan } from '@/core/release/plan';
import { planMoments, planSaid, selfPublishSaid } from '@/core/release/planSaid';
import { closesFor } from '@/core/sitting/clock';
import { unacknowledged } from '@/core/sitting/preflight';
import type { Arrangement, SittingRules } from '@/core/sitting/rules';
import { rulesSaid } from '@/core/sitting/rulesSaid';
import type { OpenSitting } from '@/server/sitting/openSitting';
import { LooksSaid } from '../exam/LooksSaid';
import { Button, ButtonLink } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { Timeline } from '../kit/Timeline';
import { Unkept } from '../kit/Unkept';
import { useServerNow } from '../kit/useServerNow';
import { EndSitting } from './EndSitting';
import { GiveAgain } from './GiveAgain';
import { PreflightList } from './PreflightList';
import { Phase } from './phase';
import { ReleaseSentences } from './ReleaseSentences';
import { type EnteredRules, RulesSentences } from './RulesSentences';
import { SittingStudents } from './SittingStudents';
import { useRules } from './useRules';

type SittingCommands = Commands<
  | 'saveSitting'
  | 'scheduleSitting'
  | 'acknowledge'
  | 'keepAsUsual'
  | 'arrange'
  | 'makeUp'
  | 'giveAgain'
  | 'callOffSitting'
  | 'redraftSitting'
  | 'removeSitting',
  'courseId' | 'sittingId'
>;

type Props = {
  base: string;
  /** The address of this installation, for the link. */
  origin: string;
  now: Instant;
  mayChange: boolean;
  rules: SittingRules;
  open: OpenSitting;
  /** The student for whom a make-up is begun as the page opens. */
  ill?: string | null;
  commands: SittingCommands;
};

const momentFields = ['opens', 'lastStart', 'due', 'closes'] as const;
const releaseFields = ['releasePlan', 'selfPublish', 'completion'];
const sentenceFields = [
  'title',
  'timeLimitMinutes',
  'attemptsAllowed',
  'missedAgain',
  'networks',
  'shutDays',
  'entryCode',
  'nextTask',
  'release',
  ...momentFields,
];

function enteredFrom({ sitting, who, markers, timeZone }: OpenSitting, rules: SittingRules): EnteredRules {
  const local = (at: Instant | null) => (at === null ? '' : localFromInstant(at, timeZone));
  const { opens, lastStart, due, closes, timeLimit, fullTimeOnceStarted, attemptsAllowed, attemptCounts, ...further } =
    rules;
  return {
    title: sitting.title,
    who,
    opens: local(opens),
    lastStart: local(lastStart),
    due: local(due),
    closes: local(closes),
    timeLimitMinutes: timeLimit === null ? null : timeLimit / minute,
    fullTimeOnceStarted,
    attemptsAllowed,
    attemptCounts,
    further,
    nextTask: sitting.nextTask,
    markerIds: markers.filter((marker) => marker.assigned).map((marker) => marker.userId),
    releasePlan: sitting.releasePlan,
    selfPublish: sitting.selfPublish ?? noSelfPublish,
    completion: sitting.completion,
  };
}

/** A sitting: its timeline, its rules as sentences, what stands in its way, and who takes it. */
export function SittingPage({ base, origin, now, mayChange, rules, open, ill, commands }: Props) {
  const { sitting, timeZone, findings } = open;
  const isDraft = sitting.state === 'draft';
  const written = useRules({
    title: `Rules of ${sitting.title}`,
    stored: () => enteredFrom(open, rules),
    isDraft,
    save: commands.saveSitting,
  });
  const { perform, problems, setProblems, busy, entered, changed, isChanged, discard } = written;
  const [ticked, setTicked] = useState<string[]>([]);
  const [done, setDone] = useState('');
  const router = useRouter();
  usePassing(now, [rules.opens, rules.lastStart, rules.closes], () => router.refresh());
  /** What is to be applied is said once, where it was changed. */
  const ofRelease = isChanged && Object.keys(changed).every((field) => releaseFields.includes(field));
  const change = (part: Partial<EnteredRules>) => {
    setDone('');
    written.change(part);
    // Who is writing is looked at anew: it is said beside the changes.
    if (!isDraft) router.refresh();
  };
  const apply = async () => {
    if (await written.apply()) setDone('The changes hold from now on. Whoever’s times differ has been told.');
  };
  const schedule = () =>
    perform(
      () => commands.scheduleSitting(ticked),
      ({ students }) => setDone(`It is scheduled, and ${counted(students, 'student has', 'students have')} been told.`),
    );
  const keepRules = () =>
    perform(
      () => commands.keepAsUsual(),
      () => setDone('Kept with the exam: its next sitting begins with these rules.'),
    );
  const acknowledged = sitting.acknowledged ?? [];
  // What is scheduled has been through this: a closing that has passed since is no error.
  const errors = findings.filter((one) => isDraft && one.kind === 'error');
  const toTake = unacknowledged(findings, acknowledged).filter((one) => !ticked.includes(one.key));
  const whyNot =
    written.isSaving || (isDraft && isChanged)
      ? 'What was changed is being saved.'
      : problems.length
        ? 'The last change was not taken: see what is said beside it.'
        : errors.length
          ? 'Mend what is listed under “Before it can be scheduled”.'
          : toTake.length
            ? `Read the ${counted(toTake.length, 'warning')} under “Before it can be scheduled” and tick ${toTake.length === 1 ? 'it' : 'them'}.`
            : null;
  const writing = open.audience.filter((student) => student.running).length;
  const here = `${base}/sittings/${sitting.id}`;
  const applying = (
    <div className="-mx-5 mt-4 -mb-4 flex flex-wrap items-center gap-3 border-t border-line bg-saffron-wash px-5 py-3">
      <p className="min-w-0 flex-1 text-saffron">
        Changed, and not applied yet.{' '}
        {writing > 0
          ? `${counted(writing, 'student is', 'students are')} writing: their time follows at once.`
          : 'Nobody is writing now.'}
      </p>
      <Button look="main" disabled={busy} onClick={() => void apply()}>
        Apply the changes
      </Button>
      <Button onClick={discard}>Leave it as it was</Button>
      {problems.length > 0 && (
        <p role="alert" className="basis-full text-brick">
          Not applied. {problems.map((one) => one.message).join(' ')}
        </p>
      )}
    </div>
  );

  return (
    <PageFrame>
      <PageTitle
        back={{ href: `${base}/sittings`, name: 'Sittings' }}
        title={sitting.title}
        note={
          <>
            <Phase phase={open.phase} /> · a sitting of{' '}
            <TextLink href={`${base}/exams/${sitting.examId}`}>{open.examTitle}</TextLink> ·{' '}
            {counted(open.questions, 'question')}, {pointsSaid(open.points)}
            {isDraft && isChanged ? (busy ? ' · saving …' : ' · not saved yet; kept in this browser') : ''}
          </>
        }
      >
        {mayChange && <EndSitting base={base} open={open} commands={commands} onDone={setDone} />}
        {mayChange && !isDraft && <GiveAgain base={base} sections={open.sections} giveAgain={commands.giveAgain} />}
        {mayChange && sitting.state === 'scheduled' && (
          <>
            <ButtonLink href={`${here}/print`}>Print papers</ButtonLink>
            <ButtonLink href={`${here}/answer-sheets`}>Answer sheets</ButtonLink>
          </>
        )}
        {sitting.state === 'scheduled' && <ButtonLink href={`${here}/results`}>Results</ButtonLink>}
        {mayChange && sitting.state === 'scheduled' && (
          <ButtonLink href={`${here}/room`} look="main">
            Invigilate
          </ButtonLink>
        )}
        {mayChange && isDraft && (
          <Button look="main" disabled={busy} whyNot={whyNot} onClick={() => void schedule()}>
            Schedule
          </Button>
        )}
      </PageTitle>
      {open.link && (
        <p className="-mt-2 mb-3">
          Anyone with this link can take it:{' '}
          <code className="bg-sheet px-1.5 py-0.5 font-mono text-sm select-all">{`${origin}/join/${open.link}`}</code>
        </p>
      )}
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
      <Unkept on={isChanged && !written.isKept} />
      <Sheet className="mb-4 px-4 pt-2">
        <Timeline
          points={
            rules.opens !== null || rules.closes !== null
              ? timelinePoints(rules, open.audience, open.overAt, sitting.releasePlan)
              : []
          }
          now={now}
          zone={timeZone}
          none="Opening and closing stand on this line once they have a time."
        />
      </Sheet>
      <div className="grid items-start gap-4 lg:grid-cols-[1.25fr_1fr]">
        <div className="space-y-4">
          <Sheet label="Rules" className="px-5 py-4">
            {mayChange ? (
              <RulesSentences
                entered={entered}
                now={now}
                zone={timeZone}
                sections={open.sections}
                course={open.course}
                markers={open.markers}
                link={open.link}
                students={open.audience.length}
                scored={open.purpose.scored && !open.purpose.anonymous}
                problemOf={(field) =>
                  problemAt(problems, field) ?? errors.find((one) => one.field === field)?.message ?? null
                }
                onChange={change}
              />
            ) : (
              <ul className="space-y-1">
                {rulesSaid(rules, timeZone).map((sentence) => (
                  <li key={sentence}>{sentence}</li>
                ))}
              </ul>
            )}
            <Problems problems={problemsBesides(problems, sentenceFields)} className="mt-3" />
            {isDraft && problems.length > 0 && (
              <p role="alert" className="mt-3 flex flex-wrap items-center gap-x-3 border-t border-line pt-2 text-brick">
                The last change was not taken; what stands here is what holds.
                <TextButton onClick={() => setProblems([])}>Leave it so</TextButton>
              </p>
            )}
            {mayChange && open.unusual && !isChanged && (
              <p className="mt-3 border-t border-line pt-2 text-sm text-ink-2">
                The exam is usually given under other rules.{' '}
                <TextButton disabled={busy} onClick={() => void keepRules()}>
                  Keep these for its next sittings
                </TextButton>
              </p>
            )}
            {isChanged && !ofRelease && applying}
          </Sheet>
          {open.purpose.scored && !open.purpose.anonymous && (
            <Sheet label="What students see" className="px-5 py-4">
              <h2 className="mb-1 text-lg">What students see</h2>
              {mayChange ? (
                <ReleaseSentences
                  plan={entered.releasePlan}
                  self={entered.selfPublish}
                  completion={entered.completion}
                  now={now}
                  zone={timeZone}
                  problem={
                    problemAt(problems, 'release') ?? errors.find((one) => one.field === 'release')?.message ?? null
                  }
                  onPlan={(releasePlan) => change({ releasePlan })}
                  onSelf={(selfPublish) => change({ selfPublish })}
                  onCompletion={(completion) => change({ completion })}
                />
              ) : (
                <ul className="space-y-1">
                  {[
                    ...planSaid(entered.releasePlan, timeZone),
                    selfPublishSaid(entered.selfPublish, timeZone),
                    ...(entered.completion ? [`A student is ${completionSaid(entered.completion)}.`] : []),
                  ].map((sentence) => (
                    <li key={sentence}>{sentence}</li>
                  ))}
                </ul>
              )}
              {mayChange && !isDraft && (
                <p className="mt-2 border-t border-line pt-2 text-sm">
                  <TextLink href={`${here}/as-student`}>See it as a student</TextLink>
                  <span className="text-ink-2">, at any moment</span>
                </p>
              )}
              {ofRelease && applying}
            </Sheet>
          )}
          <PreflightList
            isDraft={isDraft}
            findings={findings.filter((one) => isDraft || one.kind === 'warning')}
            acknowledged={acknowledged}
            ticked={ticked}
            onTick={(key, on) => setTicked(on ? [...ticked, key] : ticked.filter((one) => one !== key))}
            onAcknowledge={(key) => void perform(() => commands.acknowledge(key))}
            zone={timeZone}
            mayChange={mayChange}
            students={open.audience.length}
          />
        </div>
        <SittingStudents
          rules={rules}
          now={now}
          students={open.audience}
          timeZone={timeZone}
          mayChange={mayChange}
          arrange={commands.arrange}
          makeUp={isDraft || sitting.anonymous ? null : commands.makeUp}
          ill={ill}
          papers={mayChange && !isDraft && !sitting.anonymous ? `${here}/papers` : null}
        />
      </div>
    </PageFrame>
  );
}

/** Does something once whenever the clock passes one of some moments. */
function usePassing(begun: Instant, moments: readonly (Instant | null)[], act: () => void): void {
  const now = useServerNow(begun);
  const passed = moments.filter((at) => at !== null && at > begun && at <= now).length;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is done is done when another moment has passed
  useEffect(() => {
    if (passed > 0) act();
  }, [passed]);
}

/** Opening, last start, due, closing, own dates, and the latest that anyone may still be writing. */
function timelinePoints(
  rules: SittingRules,
  students: { arrangement: Arrangement }[],
  overAt: Instant | null,
  plan: ReleasePlan,
): { at: Instant; label: string }[] {
  const named = { opens: 'opens', lastStart: 'last start', due: 'due', closes: 'closes' };
  const points = momentFields.flatMap((field) =>
    rules[field] === null ? [] : [{ at: rules[field], label: named[field] }],
  );
  const furthest = (some: typeof students) =>
    Math.max(Number.NEGATIVE_INFINITY, ...some.flatMap((one) => closesFor(rules, one.arrangement) ?? []));
  const withExtra = furthest(students.filter((one) => one.arrangement.closes === null));
  const withOwn = furthest(students.filter((one) => one.arrangement.closes !== null));
  if (rules.closes !== null && withExtra > rules.closes) points.push({ at: withExtra, label: 'extra time ends' });
  if (rules.closes !== null && withOwn > rules.closes) points.push({ at: withOwn, label: 'an own date closes' });
  const latest = Math.max(withExtra, withOwn);
  if (overAt !== null && overAt > Math.max(latest, rules.closes ?? 0))
    points.push({ at: overAt, label: 'over for everyone' });
  // What is shown at a moment that is on the line already stands behind its name.
  for (const moment of planMoments(plan, rules, overAt)) {
    const there = points.find((one) => one.at === moment.at);
    if (there) there.label = `${there.label} · ${moment.label}`;
    else points.push(moment);
  }
  return points;
}
