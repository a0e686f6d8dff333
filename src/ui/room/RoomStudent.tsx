'use client';
import { useEffect, useState } from 'react';
import type { RoomState } from '@/core/attempt/roomState';
import { asideReasonSaid } from '@/core/attempt/standing';
import { inZone } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { factNames } from '@/core/release/plan';
import { inARow } from '@/core/release/planSaid';
import type { ClockState, OwnTimes } from '@/core/sitting/myClock';
import type { AsideAnswer } from '@/server/room/asideAnswers';
import type { SeenBefore } from '@/server/room/invigilate';
import type { RoomRow } from '@/server/room/room';
import { WordsForm } from '../keep/WordsForm';
import { Button } from '../kit/Button';
import { Decision } from '../kit/Decision';
import { TextField } from '../kit/Field';
import { MyClockLine } from '../kit/MyClockLine';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { MinutesFields } from './ForEveryone';
import type { RoomCommands } from './roomCommands';
import { stateSaid } from './roomSaid';

type Props = {
  row: RoomRow;
  state: RoomState;
  now: number;
  zone: string;
  times: OwnTimes;
  commands: RoomCommands;
  onDone: (said: string) => void;
  onClose: () => void;
};

/** One student of the room, and what can be done for them. */
export function RoomStudent({ row, state, now, zone, times, commands, onDone, onClose }: Props) {
  const { perform, problems, busy } = usePerform();
  const [asking, setAsking] = useState<'hand-in' | 'void' | 'reopen' | null>(null);
  const [seen, setSeen] = useState<SeenBefore | null>(null);
  const { attempt } = row;
  const at = (moment: number) => inZone(moment, zone, 'HH:mm:ss');
  const done = (said: string) => {
    setAsking(null);
    onDone(said);
  };
  return (
    <Sheet label={row.name} className="sticky top-4 px-4 py-3">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="text-lg">{row.name}</h2>
        <Button look="quiet" onClick={onClose}>
          Close
        </Button>
      </div>
      <p className="text-ink-2">
        {stateSaid[state].one}
        {row.whyNot && ` · ${row.whyNot}`}
      </p>
      {attempt && (
        <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-4 text-sm tabular-nums">
          <dt className="text-ink-2">Attempt</dt>
          <dd>{attempt.number}</dd>
          <dt className="text-ink-2">Started</dt>
          <dd>{at(attempt.startedAt)}</dd>
          {attempt.deadline !== null && (
            <>
              <dt className="text-ink-2">Ends</dt>
              <dd>{at(attempt.deadline)}</dd>
            </>
          )}
          {attempt.endedAt !== null && (
            <>
              <dt className="text-ink-2">Ended</dt>
              <dd>{at(attempt.endedAt)}</dd>
            </>
          )}
        </dl>
      )}
      <p className="mt-1 text-sm">
        <MyClockLine times={times} state={clockOf(row)} zone={zone} now={now} to="staff" bare />
      </p>
      <Problems problems={problems} className="mt-2" />
      <div className="mt-3 flex flex-wrap gap-2">
        {row.waitsToBeLetThrough && (
          <Button
            look="main"
            disabled={busy}
            onClick={() =>
              void perform(
                () => commands.letThrough(row.userId),
                () => done(`${row.name} may begin attempt ${row.attempts + 1}.`),
              )
            }
          >
            Let through to the next attempt
          </Button>
        )}
        {(attempt?.phase === 'running' || attempt?.phase === 'not-handed-in') && (
          <Button onClick={() => setAsking('hand-in')}>
            {attempt.phase === 'running' ? 'Hand in for them' : 'Count it as handed in'}
          </Button>
        )}
        {(attempt?.phase === 'handed-in' || attempt?.phase === 'not-handed-in') && (
          <Button
            onClick={() => {
              setSeen(null);
              setAsking('reopen');
              void commands.beforeReopening(attempt.id).then((answer) => answer.ok && setSeen(answer.value));
            }}
          >
            Open again
          </Button>
        )}
        {/* At the edge: what stands before it changes with the student's own doings, and it must not move under a pointer. */}
        {attempt && attempt.phase !== 'voided' && (
          <Button look="grave" className="ml-auto" onClick={() => setAsking('void')}>
            Void
          </Button>
        )}
        {attempt?.phase === 'voided' && (
          <Button
            disabled={busy}
            onClick={() =>
              void perform(
                () => commands.restoreAttempt(attempt.id),
                () => done(`The attempt of ${row.name} is no longer voided.`),
              )
            }
          >
            Take the voiding back
          </Button>
        )}
      </div>
      {row.aside > 0 && <Aside key={row.aside} row={row} zone={zone} commands={commands} onDone={onDone} />}
      {attempt?.phase === 'running' && attempt.deadline !== null && (
        <section className="mt-4 border-t border-line pt-3" aria-label="More time">
          <MinutesFields
            onGive={(minutes) => commands.addTime([attempt.id], minutes)}
            onGiven={(_, minutes) => done(`${row.name} has ${minutes} min more.`)}
          />
        </section>
      )}
      <section className="mt-4 border-t border-line pt-3" aria-label="Note">
        <WordsForm
          label={`An incident with ${row.name}`}
          act="Write it down"
          onSend={(text) => commands.addNote({ kind: 'incident', userId: row.userId, text })}
          onSent={() => done('Written down in the log.')}
        />
      </section>
      {attempt?.phase === 'running' && (
        <section className="mt-4 border-t border-line pt-3" aria-label="Message">
          <WordsForm
            label={`A message to ${row.name} alone`}
            act="Send to them"
            onSend={(text) => commands.addNote({ kind: 'message', userId: row.userId, text })}
            onSent={() => done(`${row.name} has been told.`)}
          />
        </section>
      )}
      {asking === 'hand-in' && attempt && (
        <Decision
          title={`Hand in for ${row.name}?`}
          act="Hand in"
          busy={busy}
          onClose={() => setAsking(null)}
          onAct={() =>
            void perform(
              () => commands.handInFor(attempt.id),
              () => done(`The attempt of ${row.name} is handed in.`),
            )
          }
        >
          <p>
            {attempt.answered} of {attempt.questions} questions are answered. Nothing more can be entered
            {attempt.deadline !== null &&
              attempt.deadline > now &&
              `, though ${Math.ceil((attempt.deadline - now) / 60_000)} min are left`}
            . It can be opened again.
          </p>
          <Problems problems={problems} />
        </Decision>
      )}
      {asking === 'void' && attempt && (
        <ReasonDecision
          title={`Void the attempt of ${row.name}?`}
          says={`Its ${counted(attempt.answered, 'answer')} and what they earned count nowhere any more; the student is told, and may make another attempt in its place. It can be taken back${attempt.phase === 'running' ? ': the time it took is then given back' : ''}.`}
          act="Void it"
          onAct={(reason) => commands.voidAttempt(attempt.id, reason)}
          onDone={() => done(`The attempt of ${row.name} is voided.`)}
          onClose={() => setAsking(null)}
        />
      )}
      {asking === 'reopen' && attempt && (
        <ReasonDecision
          title={`Open the attempt of ${row.name} again?`}
          says={`The student goes on where they were. The time it was closed for is given back; marks given by hand stay where answers stay. They are told by message.${seenSaid(seen, zone)}`}
          act="Open again"
          minutes={attempt.endedBy === 'clock' || attempt.phase === 'not-handed-in' ? '10' : '0'}
          onAct={(reason, minutes) => commands.reopen(attempt.id, { minutes, reason })}
          onDone={() => done(`${row.name} may go on.`)}
          onClose={() => setAsking(null)}
        />
      )}
    </Sheet>
  );
}

/** What lies between a student and an attempt, for the sentence of their clock. */
const clockOf = ({ attempt, excused, whyNot, startsAt }: RoomRow): ClockState =>
  attempt?.phase === 'running'
    ? { kind: 'running', deadline: attempt.deadline, handInUntil: attempt.deadline }
    : excused || (whyNot !== null && startsAt === null)
      ? { kind: 'over' }
      : whyNot === null
        ? { kind: 'may-start' }
        : { kind: 'not-yet', at: startsAt };

/** What a student has seen of the keys who is to go on writing. */
function seenSaid(seen: SeenBefore | null, zone: string): string {
  if (!seen) return '';
  const shown = seen.shown.length
    ? ` Until now they can see ${inARow(seen.shown.map((fact) => factNames[fact].toLowerCase()))} of it`
    : '';
  if (seen.lookedAt === null) return shown && `${shown}; they have not looked at their result.`;
  const looked = `they looked at their result ${inZone(seen.lookedAt, zone, 'EEE d MMM, HH:mm')}`;
  return shown ? `${shown}, and ${looked}.` : ` ${looked[0]?.toUpperCase()}${looked.slice(1)}.`;
}

/** A decision that needs a reason, and where something runs on, minutes. */
function ReasonDecision({
  title,
  says,
  act,
  minutes: begun,
  onAct,
  onDone,
  onClose,
}: {
  title: string;
  says: string;
  act: string;
  minutes?: string;
  onAct: (reason: string, minutes: number) => ReturnType<RoomCommands['voidAttempt']>;
  onDone: () => void;
  onClose: () => void;
}) {
  const { perform, problems, busy } = usePerform();
  const [reason, setReason] = useState('');
  const [minutes, setMinutes] = useState(begun ?? '');
  return (
    <Decision
      title={title}
      act={act}
      busy={busy}
      onClose={onClose}
      onAct={() => void perform(() => onAct(reason, begun === undefined ? 0 : numberIn(minutes)), onDone)}
    >
      <p>{says}</p>
      {begun !== undefined && (
        <NumberField
          label="More minutes besides"
          className="w-40"
          value={minutes}
          onChange={(event) => setMinutes(event.target.value)}
          problem={problemAt(problems, 'minutes')}
        />
      )}
      <TextField
        label="Reason"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        hint="It stands in the log."
        problem={problemAt(problems, 'reason')}
      />
      <Problems problems={problemsBesides(problems, ['minutes', 'reason'])} />
    </Decision>
  );
}

/** Answers that came too late or from a replaced window: each is taken over, or left out. */
function Aside({
  row,
  zone,
  commands,
  onDone,
}: {
  row: RoomRow;
  zone: string;
  commands: RoomCommands;
  onDone: (said: string) => void;
}) {
  const { perform, problems, busy } = usePerform();
  const [answers, setAnswers] = useState<AsideAnswer[] | null>(null);
  useEffect(() => {
    let gone = false;
    void commands.seeKeptAside(row.userId).then((answer) => {
      if (!gone && answer.ok) setAnswers(answer.value);
    });
    return () => {
      gone = true;
    };
  }, [commands, row.userId]);
  const decide = (answer: AsideAnswer, take: boolean) =>
    void perform(
      () => commands.decideAside({ slotId: answer.slotId, epoch: answer.epoch, sequence: answer.sequence }, take),
      () => {
        setAnswers((before) => before?.filter((one) => one !== answer) ?? null);
        onDone(take ? `The answer to question ${answer.number} counts now.` : 'The answer is left out.');
      },
    );
  return (
    <section className="mt-4 border-t border-line pt-3" aria-label="Answers kept aside">
      <h3 className="font-sans text-base font-medium text-saffron">Answers kept aside</h3>
      <Problems problems={problems} />
      {answers === null && <p className="text-ink-2">Fetching them …</p>}
      <ul className="space-y-3">
        {answers?.map((answer) => (
          <li
            key={`${answer.slotId}${answer.epoch}.${answer.sequence}`}
            className="border-t border-line pt-2 first:border-t-0"
          >
            <p className="font-medium">Question {answer.number}</p>
            <p className="text-sm text-ink-2">{answer.question}</p>
            <p className="mt-1 break-words whitespace-pre-wrap">{answer.text || 'cleared'}</p>
            <p className="text-sm text-ink-2">
              Came {inZone(answer.receivedAt, zone, 'HH:mm:ss')}, {asideReasonSaid[answer.reason]}
              {answer.givenAt !== null &&
                `; its browser says it was given ${inZone(answer.givenAt, zone, 'HH:mm:ss')}, ${answer.inTime ? 'in time' : 'too late'}`}
              . Now counts: {answer.counting || 'nothing'}.
            </p>
            <div className="mt-1 flex gap-2">
              <Button disabled={busy || row.attempt?.phase === 'running'} onClick={() => decide(answer, true)}>
                Let it count
              </Button>
              <Button
                look="quiet"
                disabled={busy || row.attempt?.phase === 'running'}
                onClick={() => decide(answer, false)}
              >
                Leave it out
              </Button>
            </div>
          </li>
        ))}
      </ul>
      {row.attempt?.phase === 'running' && (
        <p className="mt-1 text-sm text-ink-2">They are decided once the attempt has been handed in.</p>
      )}
    </section>
  );
}
