'use client';
import { instantFromLocal, localFromInstant } from '@/core/base/localTime';
import { day, hour, type Instant } from '@/core/base/time';
import type { Completion } from '@/core/gradebook/completion';
import type { ReleasePlan, SelfPublish } from '@/core/release/plan';
import { readNetwork } from '@/core/sitting/networks';
import { type AttemptCounts, attemptCountings, type FurtherRules } from '@/core/sitting/rules';
import { betweenSaid } from '@/core/sitting/rulesSaid';
import type { Who } from '@/server/sitting/rulesInput';
import { MinutesField } from '../kit/MinutesField';
import { MomentField } from '../kit/MomentField';
import { MomentPiece } from '../kit/MomentPiece';
import { NumberPiece } from '../kit/NumberPiece';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';
import { TextPiece } from '../kit/TextPiece';
import { DaysPiece } from './DaysPiece';
import { LearningSentence } from './LearningSentence';
import { BetweenFields, SentenceProblem, TicksList } from './RulePieces';
import { TimeSentence } from './TimeSentence';
import { WhoPiece } from './WhoPiece';

/** The rules as they are entered. Moments are local to the course's zone, empty for none. */
export type EnteredRules = {
  title: string;
  who: Who;
  opens: string;
  lastStart: string;
  due: string;
  closes: string;
  timeLimitMinutes: number | null;
  fullTimeOnceStarted: boolean;
  attemptsAllowed: number | null;
  attemptCounts: AttemptCounts;
  further: FurtherRules;
  nextTask: string;
  markerIds: string[];
  releasePlan: ReleasePlan;
  selfPublish: SelfPublish;
  completion: Completion | null;
};

type Props = {
  entered: EnteredRules;
  now: Instant;
  zone: string;
  sections: { id: string; name: string }[];
  course: { id: string; name: string; section: string | null }[];
  markers: { userId: string; name: string }[];
  link: string | null;
  students: number;
  scored: boolean;
  problemOf: (field: string) => string | null;
  onChange: (part: Partial<EnteredRules>) => void;
};

const countingSaid: Record<AttemptCounts, string> = {
  best: 'the best',
  first: 'the first',
  last: 'the last',
  mean: 'the mean',
};

/** The rules of a sitting as sentences; every underlined piece is changed in place. */
export function RulesSentences(props: Props) {
  const { entered, now, zone, markers, scored, problemOf, onChange } = props;
  const { further } = entered;
  const setFurther = (part: Partial<FurtherRules>) => onChange({ further: { ...further, ...part } });
  /** Never the same day: the day after the opening, at the same hour; without an opening, a week from now at a full hour. */
  const proposedClosing = () => {
    const opens = instantFromLocal(entered.opens, zone);
    return localFromInstant(opens !== null ? opens + day : Math.ceil((now + 7 * day) / hour) * hour, zone);
  };
  const several = entered.attemptsAllowed !== 1;
  const markersSaid =
    markers
      .filter((one) => entered.markerIds.includes(one.userId))
      .map((one) => one.name)
      .join(', ') || 'nobody else';
  const ends = entered.timeLimitMinutes !== null || entered.closes !== '';
  return (
    <div className="space-y-2.5 leading-8">
      <div>
        It is called{' '}
        <TextPiece
          label="Title"
          value={entered.title}
          none="untitled"
          problem={problemOf('title')}
          onSet={(title) => onChange({ title })}
        />{' '}
        and given to{' '}
        <WhoPiece
          who={entered.who}
          sections={props.sections}
          course={props.course}
          link={props.link}
          students={props.students}
          onSet={(who) => onChange({ who })}
        />
        .
      </div>
      <div>
        It opens{' '}
        <MomentField
          label="Opens"
          value={entered.opens}
          zone={zone}
          none="as soon as it is scheduled"
          propose={{
            says: 'at the next full hour',
            value: () => localFromInstant((Math.floor(now / hour) + 1) * hour, zone),
          }}
          problem={problemOf('opens')}
          onSet={(opens) => onChange({ opens })}
        />
        , closes{' '}
        <MomentField
          label="Closes"
          value={entered.closes}
          zone={zone}
          none="never"
          propose={{
            says: entered.opens === '' ? 'in a week' : 'a day after it opens',
            value: proposedClosing,
          }}
          problem={problemOf('closes')}
          onSet={(closes) => onChange({ closes })}
        />
        , gives{' '}
        <MinutesField
          label="Minutes from the start"
          value={entered.timeLimitMinutes}
          problem={problemOf('timeLimitMinutes')}
          onSet={(timeLimitMinutes) => onChange({ timeLimitMinutes })}
        />{' '}
        min from the start <span className="text-ink-2">(times of {zone})</span>. It can be started until{' '}
        <MomentPiece
          label="Last start"
          value={entered.lastStart}
          zone={zone}
          none="it closes"
          propose={() => entered.closes}
          problem={problemOf('lastStart')}
          onSet={(lastStart) => onChange({ lastStart })}
        />
        ; work is late after{' '}
        <MomentPiece
          label="Due"
          value={entered.due}
          zone={zone}
          none="the closing only"
          propose={() => entered.closes}
          problem={problemOf('due')}
          onSet={(due) => onChange({ due })}
        />
        .
      </div>
      <TimeSentence {...props} ends={ends} />
      <div>
        Each student has{' '}
        <PickPiece
          label="How many attempts"
          value={entered.attemptsAllowed === 1 ? 'one' : entered.attemptsAllowed === null ? 'any' : 'some'}
          options={[
            { value: 'one', says: 'one attempt' },
            { value: 'some', says: 'up to', means: 'up to so many attempts' },
            { value: 'any', says: 'any number of attempts' },
          ]}
          onPick={(value) => onChange({ attemptsAllowed: value === 'one' ? 1 : value === 'any' ? null : 3 })}
        />
        {entered.attemptsAllowed !== null && several && (
          <>
            {' '}
            <SentencePiece says={entered.attemptsAllowed} label={`Attempts: ${entered.attemptsAllowed}`}>
              {(close) => (
                <NumberPiece
                  label="Attempts"
                  value={entered.attemptsAllowed ?? 1}
                  whole
                  onSet={(attemptsAllowed) => onChange({ attemptsAllowed })}
                  onDone={close}
                />
              )}
            </SentencePiece>{' '}
            attempts
          </>
        )}
        {several && (
          <>
            , of which{' '}
            <PickPiece
              label="Which attempt counts"
              value={entered.attemptCounts}
              options={attemptCountings.map((value) => ({ value, says: countingSaid[value] }))}
              onPick={(attemptCounts) => onChange({ attemptCounts })}
            />{' '}
            counts: <BetweenPiece between={further.between} onSet={(between) => setFurther({ between })} />, each{' '}
            <PickPiece
              label="The next paper"
              value={further.nextPaper}
              options={[
                { value: 'new', says: 'with a paper of its own' },
                { value: 'same', says: 'going on with the same paper and answers' },
              ]}
              onPick={(nextPaper) => setFurther({ nextPaper })}
            />
          </>
        )}
        .
        <SentenceProblem text={problemOf('attemptsAllowed')} />
      </div>
      <div>
        Students move{' '}
        <PickPiece
          label="How students move"
          value={further.onwardOnly ? 'onward' : 'anywhere'}
          options={[
            { value: 'anywhere', says: 'anywhere on their paper' },
            { value: 'onward', says: 'onward only', means: 'onward only: no way back to a page once it is left' },
          ]}
          onPick={(value) =>
            setFurther(value === 'onward' ? { onwardOnly: true } : { onwardOnly: false, minutesPerQuestion: null })
          }
        />
        {further.onwardOnly && (
          <>
            , with{' '}
            <PickPiece
              label="Time for each question"
              value={further.minutesPerQuestion === null ? 'none' : 'some'}
              options={[
                { value: 'none', says: 'no time of its own for each question' },
                { value: 'some', says: 'for each question', means: 'a time of its own for each question' },
              ]}
              onPick={(value) => setFurther({ minutesPerQuestion: value === 'none' ? null : 2 })}
            />
            {further.minutesPerQuestion !== null && (
              <>
                {' '}
                <SentencePiece
                  says={`${further.minutesPerQuestion} min`}
                  label={`Minutes: ${further.minutesPerQuestion} min`}
                >
                  {(close) => (
                    <NumberPiece
                      label="Minutes for each question"
                      value={further.minutesPerQuestion ?? 2}
                      onSet={(minutesPerQuestion) => setFurther({ minutesPerQuestion })}
                      onDone={close}
                    />
                  )}
                </SentencePiece>
              </>
            )}
          </>
        )}
        .
      </div>
      {scored && <LearningSentence further={further} onSet={setFurther} problem={problemOf('missedAgain')} />}
      <div>
        To start,{' '}
        <TextPiece
          label="Entry code"
          value={further.entryCode}
          none="no entry code is needed"
          says={`the code ${further.entryCode} has to be typed`}
          hint="Told in the room only. Capitals and spaces do not matter."
          problem={problemOf('entryCode')}
          check={(text) => (text.length > 40 ? 'At most 40 characters.' : null)}
          onSet={(entryCode) => setFurther({ entryCode })}
        />
        ; it can be taken{' '}
        <TextPiece
          label="Networks"
          value={further.networks.join('\n')}
          none="from anywhere"
          says={`only from ${further.networks.join(', ')}`}
          lines
          hint="One range a line, such as 10.1.0.0/16. Ask whoever runs the network of the room."
          problem={problemOf('networks')}
          check={(text) => {
            const wrong = text.split(/[\s,;]+/).find((one) => one !== '' && !readNetwork(one));
            return wrong === undefined ? null : `“${wrong}” is not a network range such as 10.1.0.0/16.`;
          }}
          onSet={(text) => setFurther({ networks: text.split(/[\s,;]+/).filter(Boolean) })}
        />
        ;{' '}
        <DaysPiece
          days={further.shutDays}
          problem={problemOf('shutDays')}
          onSet={(shutDays) => setFurther({ shutDays })}
        />
        .
      </div>
      <div>
        {markers.length > 0 && (
          <>
            Written answers are marked by the instructors and{' '}
            <SentencePiece says={markersSaid} label={`Markers: ${markersSaid}`}>
              {() => (
                <TicksList
                  label="Markers"
                  options={markers.map((one) => ({ id: one.userId, name: one.name }))}
                  on={entered.markerIds}
                  onSet={(markerIds) => onChange({ markerIds })}
                />
              )}
            </SentencePiece>
            .{' '}
          </>
        )}
        After the hand-in the receipt names{' '}
        <TextPiece
          label="What comes next"
          value={entered.nextTask}
          none="no further task"
          lines
          hint="A task they are to go on with, or where to wait. It stands on their receipt."
          problem={problemOf('nextTask')}
          onSet={(nextTask) => onChange({ nextTask })}
        />
        .
      </div>
    </div>
  );
}

function BetweenPiece({
  between,
  onSet,
}: {
  between: FurtherRules['between'];
  onSet: (next: FurtherRules['between']) => void;
}) {
  return (
    <SentencePiece says={betweenSaid(between)} label={`Between attempts: ${betweenSaid(between)}`}>
      {(close) => <BetweenFields between={between} onSet={onSet} onDone={close} />}
    </SentencePiece>
  );
}
