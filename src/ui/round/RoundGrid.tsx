'use client';
import { useState } from 'react';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { longestRuler } from '@/core/attempt/paperRuler';
import { rulerAtLength } from '@/core/attempt/rulerInShort';
import type { GridPerson } from '@/server/round/grid';
import { Decision } from '../kit/Decision';
import { TextField } from '../kit/Field';
import { holds } from '../kit/Find';
import { State } from '../kit/Page';
import { PaperRuler } from '../kit/PaperRuler';
import { Problems } from '../kit/Problems';
import { RowTable, type Sorted, tableRow } from '../kit/RowTable';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';
import type { LeadCommands } from './roundCommands';

type Props = {
  people: readonly GridPerson[];
  /** Whether the page may be seen by the class: nothing of what is right, and no digits of anybody's way back. */
  hidden: boolean;
  find: string;
  isOver: boolean;
  at: number | null;
  commands: Pick<LeadCommands, 'renameDevice' | 'sendOut'>;
};

const columnsOf = (hidden: boolean) => [
  { key: 'name', name: 'Name', sortable: true, share: 34 },
  { key: 'paper', name: 'Answers', share: 36 },
  { key: 'answered', name: 'Answered', right: true, sortable: true, share: 14 },
  ...(hidden ? [] : [{ key: 'share', name: 'Right so far', right: true, sortable: true, share: 16 }]),
];

const byName = new Intl.Collator('en', { sensitivity: 'base', numeric: true });

/** Sorted by name, result or answered; equals by name. */
function sortedPeople(people: readonly GridPerson[], { by, down }: Sorted): GridPerson[] {
  const value = (one: GridPerson): number =>
    by === 'share' ? (one.share ?? -1) : by === 'answered' ? one.answered : 0;
  return [...people].sort(
    (a, b) =>
      (value(a) - value(b)) * (down ? -1 : 1) || byName.compare(a.name, b.name) * (by === 'name' && down ? -1 : 1),
  );
}

/** Signs of one person; of what is right nothing while the class may look. */
const signsOf = (one: GridPerson, hidden: boolean, at: number | null): QuestionSign[] =>
  rulerAtLength([['', hidden ? one.signs.replace(/[rpw]/g, 'a') : one.signs]]).map((sign) => ({
    ...sign,
    current: at !== null && sign.number === at + 1,
  }));

/** The live grid: a ruler for each person. */
export function RoundGrid({ people, hidden, find, isOver, at, commands }: Props) {
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const [renamed, setRenamed] = useState<GridPerson | null>(null);
  const [out, setOut] = useState<GridPerson | null>(null);
  /** Whose way back is shown, and who can be renamed or sent out. */
  const [opened, setOpened] = useState<string | null>(null);
  const rows = sortedPeople(
    people.filter((one) => holds(find, one.name, one.section)),
    hidden && sorted.by === 'share' ? { by: 'name', down: false } : sorted,
  );
  return (
    <>
      <RowTable label="Who is in" columns={columnsOf(hidden)} rows={rows} sorted={sorted} onSort={setSorted}>
        {(one) => (
          <tr key={one.userId} className={tableRow}>
            <td className="py-1">
              <span className="flex flex-wrap items-baseline gap-x-2">
                {hidden || one.wayBack === null || one.madeUp || isOver ? (
                  <span className="min-w-0 break-words">{one.name}</span>
                ) : (
                  <TextButton
                    className="min-w-0 text-left break-words text-ink no-underline hover:underline"
                    aria-expanded={opened === one.userId}
                    onClick={() => setOpened(opened === one.userId ? null : one.userId)}
                  >
                    {one.name}
                  </TextButton>
                )}
                {one.madeUp && <State ink="waits">made up</State>}
                {one.answeredNow === false && <span className="text-saffron">…</span>}
                {one.answeredNow === false && <span className="sr-only">has not answered</span>}
                {!hidden && opened === one.userId && (
                  <span className="w-full text-sm text-ink-2">
                    way back <span className="font-mono">{one.wayBack}</span>{' '}
                    <TextButton onClick={() => setRenamed(one)}>
                      Rename<span className="sr-only"> {one.name}</span>
                    </TextButton>{' '}
                    <TextButton onClick={() => setOut(one)}>
                      Send out<span className="sr-only"> {one.name}</span>
                    </TextButton>
                  </span>
                )}
              </span>
            </td>
            <td className="py-1">
              {one.signs.length > 0 && one.signs.length <= longestRuler && (
                <PaperRuler
                  size="line"
                  signs={signsOf(one, hidden, at)}
                  label={`Answers of ${one.name}`}
                  numbered={false}
                />
              )}
            </td>
            <td className="py-1 text-right tabular-nums">{one.answered}</td>
            {!hidden && (
              <td className="py-1 text-right tabular-nums">
                {one.share === null ? '–' : `${Math.round(one.share * 100)} %`}
              </td>
            )}
          </tr>
        )}
      </RowTable>
      {renamed && <Rename person={renamed} commands={commands} onClose={() => setRenamed(null)} />}
      {out && <SendOut person={out} commands={commands} onClose={() => setOut(null)} />}
    </>
  );
}

type Asked = { person: GridPerson; commands: Props['commands']; onClose: () => void };

function Rename({ person, commands, onClose }: Asked) {
  const { perform, problems, busy } = usePerform();
  const [name, setName] = useState(person.name);
  return (
    <Decision
      title={`Rename ${person.name}`}
      act="Rename"
      busy={busy}
      onAct={() => void perform(() => commands.renameDevice(person.userId, name), onClose, { readsAnew: false })}
      onClose={onClose}
    >
      <TextField label="Name" value={name} maxLength={120} onChange={(event) => setName(event.target.value)} />
      <Problems problems={problems} />
    </Decision>
  );
}

function SendOut({ person, commands, onClose }: Asked) {
  const { perform, problems, busy } = usePerform();
  return (
    <Decision
      title={`Send ${person.name} out?`}
      act="Send out"
      look="grave"
      busy={busy}
      onAct={() => void perform(() => commands.sendOut(person.userId), onClose, { readsAnew: false })}
      onClose={onClose}
    >
      <p>Nothing of what was answered there counts, and the device comes in again only under another name.</p>
      <Problems problems={problems} />
    </Decision>
  );
}
