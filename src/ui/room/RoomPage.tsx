'use client';
import { useState } from 'react';
import { type RoomState, roomState, roomStates } from '@/core/attempt/roomState';
import { rulerAtLength } from '@/core/attempt/rulerInShort';
import { timeLeft as clockLeft } from '@/core/attempt/spokenTime';
import { waitingCount, waitingSaid } from '@/core/attempt/waiting';
import { inZone } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { Room, RoomRow } from '@/server/room/room';
import type { LogLine } from '@/server/room/roomLog';
import { Button, ButtonLink } from '../kit/Button';
import { Done } from '../kit/Done';
import { Find, holds } from '../kit/Find';
import { Empty, PageFrame, PageTitle, Sheet, State } from '../kit/Page';
import { PaperRuler } from '../kit/PaperRuler';
import { RowTable, type Sorted, tableRow } from '../kit/RowTable';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { ForEveryone } from './ForEveryone';
import { RoomLog } from './RoomLog';
import { RoomStudent } from './RoomStudent';
import type { RoomCommands } from './roomCommands';
import { agoSaid, stateSaid } from './roomSaid';
import { useRoom } from './useRoom';

type Props = { back: string; live: string; room: Room; log: LogLine[]; commands: RoomCommands };

const columns = [
  { key: 'name', name: 'Student', sortable: true, share: 30 },
  { key: 'state', name: 'State', sortable: true, share: 18 },
  { key: 'paper', name: 'Paper', share: 17 },
  { key: 'answered', name: 'Answered', right: true, sortable: true, share: 11 },
  { key: 'left', name: 'Time left', right: true, sortable: true, share: 12 },
  { key: 'contact', name: 'Last contact', right: true, share: 12 },
];

/** The room of a sitting, live: who has come, who writes, how far, for how long; and everything that can be done for them. */
export function RoomPage({ back, live, room, log: begunLog, commands }: Props) {
  const { rows, log, leaks, waiting, now, line } = useRoom(live, {
    rows: room.rows,
    log: begunLog,
    leaks: room.leaks,
    waiting: room.waiting,
    now: room.now,
  });
  const [find, setFind] = useState('');
  const [only, setOnly] = useState<RoomState | null>(null);
  const [onlyAside, setOnlyAside] = useState(false);
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const [picked, setPicked] = useState<string | null>(null);
  const [done, setDone] = useState('');
  const stated = rows.map((row) => ({ row, state: roomState(row, now) }));
  const counts = new Map<RoomState, number>();
  for (const { state } of stated) counts.set(state, (counts.get(state) ?? 0) + 1);
  const shown = stated.filter(
    ({ row, state }) =>
      (only === null || state === only) && (!onlyAside || row.aside > 0) && holds(find, row.name, row.section),
  );
  sortRows(shown, sorted, now);
  const open = rows.find((row) => row.userId === picked) ?? null;
  const writing = rows.filter((row) => row.attempt?.phase === 'running').length;
  const clock = inZone(now, room.timeZone, 'HH:mm:ss');
  return (
    <PageFrame>
      <PageTitle
        title={`In the room: ${room.title}`}
        back={{ href: back, name: 'Rules and students' }}
        note={
          <>
            <span className="tabular-nums">{clock}</span> ({room.timeZone}){' '}
            {line.kind === 'live' ? (
              <State ink="now">live</State>
            ) : (
              <span role="alert" className="text-brick">
                No connection since {inZone(line.since, room.timeZone, 'HH:mm:ss')}: what stands here is from then. It
                is tried again by itself.
              </span>
            )}
          </>
        }
      >
        <ButtonLink href={`${back}/reports`}>
          Reported questions{waiting.reports > 0 && ` (${waiting.reports})`}
        </ButtonLink>
        <ForEveryone writing={writing} commands={commands} onDone={setDone} />
      </PageTitle>
      {done && (
        <Done className="mb-3" onUndo={null}>
          {done}
        </Done>
      )}
      {waitingCount(waiting) > 0 && (
        <p role="status" className="mb-3 border-l-2 border-saffron pl-3 text-saffron">
          Waits for a decision: {waitingSaid(waiting).join('; ')}.{' '}
          {waiting.asides > 0 && (
            <TextButton aria-pressed={onlyAside} onClick={() => setOnlyAside(!onlyAside)}>
              {onlyAside ? 'Show everyone' : 'Show whose answers'}
            </TextButton>
          )}
        </p>
      )}
      {leaks.map((leak) => (
        <p key={leak} role="status" className="mb-3 border-l-2 border-saffron pl-3 text-saffron">
          {leak} <TextLink href={back}>Read it on the rules</TextLink>
        </p>
      ))}
      <fieldset className="mb-3 flex flex-wrap gap-x-1 gap-y-1">
        <legend className="sr-only">Show only those who</legend>
        <Button look={only === null ? 'plain' : 'quiet'} aria-pressed={only === null} onClick={() => setOnly(null)}>
          {counted(rows.length, 'student')}
        </Button>
        {roomStates
          .filter((state) => counts.has(state))
          .map((state) => (
            <Button
              key={state}
              look={only === state ? 'plain' : 'quiet'}
              aria-pressed={only === state}
              onClick={() => setOnly(only === state ? null : state)}
            >
              <span className="font-serif text-lg tabular-nums">{counts.get(state)}</span>{' '}
              {(counts.get(state) ?? 0) === 1 ? stateSaid[state].one : stateSaid[state].many}
            </Button>
          ))}
      </fieldset>
      <div className={`grid items-start gap-4 ${open ? 'lg:grid-cols-[1fr_22rem]' : ''}`}>
        <Sheet label="Students" className="min-w-0">
          <Find
            label="Find students"
            placeholder="Find by name or section"
            value={find}
            onChange={setFind}
            said={(find.trim() || only) && `${shown.length} of ${rows.length}`}
          />
          {rows.length === 0 ? (
            <Empty title="Nobody yet">
              Whoever comes by the link stands here as soon as they have typed their name.
            </Empty>
          ) : (
            <RowTable label="The room" columns={columns} rows={shown} sorted={sorted} onSort={setSorted}>
              {({ row, state }) => (
                <tr key={row.userId} className={`${tableRow} ${row.userId === picked ? 'bg-prussian-wash' : ''}`}>
                  <td>
                    <button
                      type="button"
                      aria-expanded={row.userId === picked}
                      className="text-left hover:underline"
                      onClick={() => setPicked(row.userId === picked ? null : row.userId)}
                    >
                      {row.name}
                      {row.section && <span className="sr-only">, </span>}
                      <span className="text-sm text-ink-2"> {row.section}</span>
                    </button>
                    {row.aside > 0 && (
                      <span className="ml-2 text-sm text-saffron">{counted(row.aside, 'answer')} kept aside</span>
                    )}
                  </td>
                  <td className="whitespace-nowrap">
                    <State ink={stateSaid[state].ink}>{stateOf(row, state, room.timeZone)}</State>
                  </td>
                  <td>
                    {row.attempt && row.attempt.signs.length > 0 && (
                      <PaperRuler
                        size="line"
                        signs={rulerAtLength(row.attempt.signs)}
                        label={`The paper of ${row.name}`}
                      />
                    )}
                  </td>
                  <td className="text-right">
                    {row.attempt && !room.anonymous ? `${row.attempt.answered} of ${row.attempt.questions}` : ''}
                  </td>
                  <td className="text-right">{timeLeft(row, now)}</td>
                  <td className="text-right whitespace-nowrap">
                    {row.attempt?.phase === 'running'
                      ? agoSaid(now - (row.attempt.lastContact ?? row.attempt.startedAt))
                      : ''}
                  </td>
                </tr>
              )}
            </RowTable>
          )}
        </Sheet>
        {open && (
          <RoomStudent
            key={open.userId}
            row={open}
            state={roomState(open, now)}
            now={now}
            zone={room.timeZone}
            times={open.times ?? room.times}
            commands={commands}
            onDone={setDone}
            onClose={() => setPicked(null)}
          />
        )}
      </div>
      <RoomLog log={log} zone={room.timeZone} settleIncident={commands.settleIncident} />
    </PageFrame>
  );
}

const order = new Map(roomStates.map((state, i) => [state, i]));

function sortRows(rows: { row: RoomRow; state: RoomState }[], { by, down }: Sorted, now: number): void {
  const key = ({ row, state }: { row: RoomRow; state: RoomState }): number =>
    by === 'state'
      ? (order.get(state) ?? 0)
      : by === 'answered'
        ? (row.attempt?.answered ?? -1)
        : by === 'left'
          ? row.attempt?.phase === 'running'
            ? (row.attempt.deadline ?? Number.MAX_SAFE_INTEGER) - now
            : Number.POSITIVE_INFINITY
          : 0;
  if (by !== 'name') rows.sort((a, b) => key(a) - key(b));
  if (down) rows.reverse();
}

/** The state with what is known besides: when, and by whom it was ended. */
function stateOf(row: RoomRow, state: RoomState, zone: string): string {
  const { one } = stateSaid[state];
  if (state === 'handed-in' && row.attempt?.endedAt) {
    const by =
      row.attempt.endedBy === 'clock' || row.attempt.endedBy === 'page'
        ? ' by the clock'
        : row.attempt.endedBy === 'invigilator'
          ? ' for them'
          : '';
    return `${one}${by} ${inZone(row.attempt.endedAt, zone, 'HH:mm')}`;
  }
  return row.attempt && row.attempt.number > 1 ? `${one}, attempt ${row.attempt.number}` : one;
}

function timeLeft(row: RoomRow, now: number) {
  const { attempt } = row;
  if (attempt?.phase !== 'running') return '';
  if (attempt.deadline === null) return 'no limit';
  const left = attempt.deadline - now;
  return (
    <span className={left <= 60_000 ? 'text-brick' : left <= 300_000 ? 'text-saffron' : ''}>
      {clockLeft(left)}
      {attempt.added > 0 && <span className="text-sm text-ink-2"> (+{Math.round(attempt.added / 60_000)})</span>}
    </span>
  );
}
