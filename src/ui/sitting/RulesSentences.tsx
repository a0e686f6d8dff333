'use client';
import { day, hour, type Instant, instantFromLocal, localFromInstant } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { type AttemptCounts, attemptCountings, type FurtherRules, type Learning } from '@/core/sitting/rules';
import { betweenSaid, percentSaid } from '@/core/sitting/rulesSaid';
import type { Who } from '@/server/sitting/rulesInput';
import { MomentPiece } from '../kit/MomentPiece';
import { NumberPiece } from '../kit/NumberPiece';
import { PickPiece } from '../kit/PickPiece';
import { SentencePiece } from '../kit/SentencePiece';
import { TextPiece } from '../kit/TextPiece';
import { BetweenFields, SharePiece, TicksList } from './RulePieces';
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

const learningSaid: Record<Learning, { says: string; means: string }> = {
  'by-plan': { says: 'when you publish', means: 'when you publish: nothing is told before' },
  'on-hand-in': { says: 'on hand-in', means: 'on hand-in: what was right and wrong' },
  'as-they-go': { says: 'as they go', means: 'as they go: each question can be checked, and then closes' },
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
      .join(', ') || 'no marker';
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
        <MomentPiece
          label="Opens"
          value={entered.opens}
          zone={zone}
          none="as soon as it is scheduled"
          propose={() => localFromInstant(Math.ceil((now + day) / hour) * hour, zone)}
          problem={problemOf('opens')}
          onSet={(opens) => onChange({ opens })}
        />{' '}
        and closes{' '}
        <MomentPiece
          label="Closes"
          value={entered.closes}
          zone={zone}
          none="never"
          propose={proposedClosing}
          problem={problemOf('closes')}
          onSet={(closes) => onChange({ closes })}
        />
        . It can be started until{' '}
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
        <Problem text={problemOf('attemptsAllowed')} />
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
          onSet={(text) => setFurther({ networks: text.split(/[\s,;]+/).filter(Boolean) })}
        />
        ;{' '}
        <TextPiece
          label="Days on which it is shut"
          value={further.shutDays.join('\n')}
          none="no day is shut"
          says={`shut on ${further.shutDays.join(', ')}`}
          lines
          hint="One day a line, as 2026-12-25: nobody can start on it. Whoever is writing goes on."
          problem={problemOf('shutDays')}
          onSet={(text) => setFurther({ shutDays: text.split(/[\s,;]+/).filter(Boolean) })}
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

const Problem = ({ text }: { text: string | null }) =>
  text ? <span className="block text-sm leading-normal text-brick">{text}</span> : null;

/** The time limit, what it runs against, and what happens when it is over. */
function TimeSentence({ entered, problemOf, onChange, ends }: Props & { ends: boolean }) {
  const { timeLimitMinutes, fullTimeOnceStarted, further, closes } = entered;
  const { expiry } = further;
  const setExpiry = (next: FurtherRules['expiry']) => onChange({ further: { ...further, expiry: next } });
  return (
    <div>
      From the start there is{' '}
      <PickPiece
        label="Time limit"
        value={timeLimitMinutes === null ? 'none' : 'some'}
        options={[
          { value: 'none', says: 'no time limit' },
          { value: 'some', says: 'a limit of', means: 'a time limit' },
        ]}
        onPick={(value) => onChange({ timeLimitMinutes: value === 'none' ? null : 60 })}
      />
      {timeLimitMinutes !== null && (
        <>
          {' '}
          <SentencePiece says={`${timeLimitMinutes} min`} label={`Minutes: ${timeLimitMinutes} min`}>
            {(close) => (
              <NumberPiece
                label="Minutes"
                value={timeLimitMinutes}
                whole
                onSet={(minutes) => onChange({ timeLimitMinutes: minutes })}
                onDone={close}
              />
            )}
          </SentencePiece>
          {closes !== '' && (
            <>
              ,{' '}
              <PickPiece
                label="Past the closing"
                value={fullTimeOnceStarted ? 'full' : 'never'}
                options={[
                  { value: 'never', says: 'never past the closing' },
                  {
                    value: 'full',
                    says: 'also past the closing',
                    means: 'also past the closing: who has started gets the full time',
                  },
                ]}
                onPick={(value) => onChange({ fullTimeOnceStarted: value === 'full' })}
              />
            </>
          )}
        </>
      )}
      .
      {ends && (
        <>
          {' '}
          When the time is over, an attempt{' '}
          <PickPiece
            label="When the time is over"
            value={expiry.kind}
            options={[
              { value: 'hand-in', says: 'is handed in by itself' },
              {
                value: 'grace',
                says: 'counts only if it is handed in within',
                means: 'counts only if its student hands it in within a grace; nothing more can be entered',
              },
            ]}
            onPick={(kind) => setExpiry(kind === 'grace' ? { kind, minutes: 2 } : { kind })}
          />
          {expiry.kind === 'grace' && (
            <>
              {' '}
              <SentencePiece says={`${expiry.minutes} min`} label={`Grace in minutes: ${expiry.minutes} min`}>
                {(close) => (
                  <NumberPiece
                    label="Grace in minutes"
                    value={expiry.minutes}
                    whole
                    onSet={(minutes) => setExpiry({ kind: 'grace', minutes })}
                    onDone={close}
                  />
                )}
              </SentencePiece>
            </>
          )}
          .
        </>
      )}
      <Problem text={problemOf('timeLimitMinutes')} />
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

/** When students learn how they did, how often a question may be tried, and whether missed ones come again. */
function LearningSentence({
  further,
  onSet,
  problem,
}: {
  further: FurtherRules;
  onSet: (part: Partial<FurtherRules>) => void;
  problem: string | null;
}) {
  const { learning, tries, missedAgain } = further;
  const most = tries?.most ?? 1;
  return (
    <div>
      They learn how they did{' '}
      <PickPiece
        label="When students learn how they did"
        value={learning}
        options={(['by-plan', 'on-hand-in', 'as-they-go'] as const).map((value) => ({ value, ...learningSaid[value] }))}
        onPick={(value) =>
          onSet(value === 'as-they-go' ? { learning: value } : { learning: value, tries: null, missedAgain: null })
        }
      />
      {learning === 'as-they-go' && (
        <>
          ; each question can be tried{' '}
          <SentencePiece
            says={most === 1 ? 'once' : counted(most, 'time')}
            label={`Tries: ${most === 1 ? 'once' : counted(most, 'time')}`}
          >
            {(close) => (
              <NumberPiece
                label="How often a question can be tried"
                value={most}
                whole
                onSet={(value) => onSet({ tries: value === 1 ? null : { most: value, cost: tries?.cost ?? 0.25 } })}
                onDone={close}
              />
            )}
          </SentencePiece>
          {tries && (
            <>
              , each further try costing{' '}
              <SharePiece
                label="What a further try costs"
                share={tries.cost}
                onSet={(cost) => onSet({ tries: { ...tries, cost } })}
              />{' '}
              of the credit
            </>
          )}
          ;{' '}
          <PickPiece
            label="Missed questions at the end"
            value={missedAgain ? 'some' : 'none'}
            options={[
              { value: 'none', says: 'missed questions do not come again' },
              { value: 'some', says: 'missed questions come again at the end' },
            ]}
            onPick={(value) => onSet({ missedAgain: value === 'some' ? { most: 3, credit: 0.5 } : null })}
          />
          {missedAgain && (
            <>
              , up to{' '}
              <SentencePiece says={missedAgain.most} label={`Missed questions: ${missedAgain.most}`}>
                {(close) => (
                  <NumberPiece
                    label="How many missed questions"
                    value={missedAgain.most}
                    whole
                    onSet={(value) => onSet({ missedAgain: { ...missedAgain, most: value } })}
                    onDone={close}
                  />
                )}
              </SentencePiece>{' '}
              of them, for{' '}
              <SharePiece
                label="What they then bring"
                share={missedAgain.credit}
                onSet={(credit) => onSet({ missedAgain: { ...missedAgain, credit } })}
              />{' '}
              of the credit
            </>
          )}
        </>
      )}
      .{learning === 'as-they-go' && tries?.cost === 0 && ` ${percentSaid(0)}: trying is for learning.`}
      <Problem text={problem} />
    </div>
  );
}
