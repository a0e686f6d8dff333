'use client';
import { useState } from 'react';
import type { Clash } from '@/core/base/merge';
import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { inZone } from '@/core/base/time';
import { counted, pointsSaid } from '@/core/base/words';
import type { Curve, LateRule } from '@/core/gradebook/courseTotal';
import { curveSaid, lateSaid, missingSaid, totalShownSaid } from '@/core/gradebook/settingsSaid';
import type { ColumnShown, Gradebook } from '@/server/gradebook/gradebook';
import type { SettingsChange } from '@/server/gradebook/settingsHistory';
import { Meanwhile } from '../keep/Meanwhile';
import { Button, RemoveButton } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { TextField } from '../kit/Field';
import { MoveButtons } from '../kit/MoveButtons';
import { NumberField } from '../kit/NumberField';
import { NumberPiece } from '../kit/NumberPiece';
import { numberIn } from '../kit/numberIn';
import { PageFrame, PageTitle, Sheet } from '../kit/Page';
import { PickPiece } from '../kit/PickPiece';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { SentencePiece } from '../kit/SentencePiece';
import { TextButton } from '../kit/TextButton';
import { TextPiece } from '../kit/TextPiece';
import { Unkept } from '../kit/Unkept';
import { usePerform } from '../kit/usePerform';
import { GroupsSheet } from './GroupsSheet';
import { TriedBar } from './TriedBar';
import { type ColumnPart, enteredOf, useOtherNumbers, withPart } from './useOtherNumbers';

export type RulesCommands = Commands<
  'saveNumbers' | 'withOtherNumbers' | 'addColumn' | 'removeColumn' | 'moveColumn',
  'courseId'
>;

type Props = {
  base: string;
  book: Gradebook;
  history: { changes: readonly SettingsChange[]; timeZone: string };
  commands: RulesCommands;
};

/** What others have kept where something else is tried here. */
function placesOf(clashes: readonly Clash[], { rules, groups }: Pick<Props['book'], 'rules' | 'groups'>) {
  const [inGroups, inRules] = [clashes.some(({ path }) => path[0] === 'groups'), clashes.map(({ path }) => path[0])];
  return [
    ...(inGroups
      ? [{ name: 'Groups', theirs: groups.map((one) => `${one.title} ${pointsText(one.weight)}`).join(', ') || 'none' }]
      : []),
    ...(inRules.includes('missing') ? [{ name: 'What was not handed in', theirs: missingSaid[rules.missing] }] : []),
    ...(inRules.includes('showsTotal')
      ? [{ name: 'What students see', theirs: totalShownSaid(rules.showsTotal) }]
      : []),
    ...(inRules.includes('decimals') ? [{ name: 'Decimals', theirs: String(rules.decimals) }] : []),
  ];
}

/**
 * Columns, their groups and weights, and how the total is computed: as sentences. What is changed is worked out at once for
 * everyone, and kept only when that is said.
 */
export function RulesPage({ base, book, history, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [done, setDone] = useState('');
  const [removed, setRemoved] = useState<ColumnShown | null>(null);
  const numbers = useOtherNumbers(commands.withOtherNumbers, book);
  const { other } = numbers;
  const columns = book.columns.map((column) => withPart(column, other.columns[column.id]));
  const rules = { ...book.rules, ...other.rules };
  const { groups } = book;
  const entered = other.groups ?? enteredOf(groups);
  const set = (column: ColumnShown, part: ColumnPart) => numbers.setColumn(column.id, part);
  const inGroup = (column: ColumnShown) => entered.some((group) => group.id !== '' && group.id === column.groupId);
  const wrong = [...problems, ...numbers.problems];
  const keep = () =>
    void perform(
      () => commands.saveNumbers(numbers.sent(), numbers.seen),
      () => {
        numbers.leave();
        setDone(
          entered.length > 0 && groups.length === 0
            ? 'The groups are kept. Now put each column into one, below.'
            : 'The changes are kept.',
        );
      },
    );
  return (
    <PageFrame>
      <PageTitle
        title="Columns and weights"
        back={{ href: `${base}/gradebook`, name: 'Gradebook' }}
        note="What counts how much in the course total"
      />
      <Problems problems={besidesGroups(problemsBesides(wrong, ['title', 'worth']))} className="mb-3" />
      <Meanwhile places={placesOf(numbers.clashes, book)} />
      {done && (
        <Done
          className="mb-3"
          onUndo={
            removed
              ? async () => {
                  await perform(() => commands.removeColumn(removed.id, false));
                  setRemoved(null);
                  setDone('');
                }
              : null
          }
        >
          {done}
        </Done>
      )}
      <Sheet label="The total" className="mb-4 px-5 py-4 leading-8">
        What was not handed in and is over{' '}
        <PickPiece
          label="What is missing"
          value={rules.missing}
          options={[
            { value: 'not-yet', says: missingSaid['not-yet'] },
            { value: 'zero', says: missingSaid.zero },
          ]}
          onPick={(missing) => numbers.setRules({ missing })}
        />
        . Points and percent are shown with{' '}
        <PickPiece
          label="Decimals"
          value={String(rules.decimals)}
          options={['0', '1', '2', '3'].map((value) => ({
            value,
            says: value === '0' ? 'no decimals' : counted(Number(value), 'decimal'),
          }))}
          onPick={(value) => numbers.setRules({ decimals: Number(value) })}
        />
        , half up; nothing is rounded before that. Students see{' '}
        <PickPiece
          label="What students see of their total"
          value={rules.showsTotal ? 'total' : 'nothing'}
          options={[
            { value: 'nothing', says: totalShownSaid(false) },
            {
              value: 'total',
              says: totalShownSaid(true),
              means: 'their own total, how it is computed, what is still to come',
            },
          ]}
          onPick={(value) => numbers.setRules({ showsTotal: value === 'total' })}
        />
        .
      </Sheet>
      <GroupsSheet
        entered={entered}
        loose={columns.filter((column) => !inGroup(column)).length}
        problems={wrong}
        onChange={numbers.setGroups}
      />
      <Sheet label="Columns" className="mb-4">
        <h2 className="px-5 pt-4 text-lg">Columns</h2>
        <ol>
          {columns.map((column, i) => (
            <li key={column.id} className="flex items-start gap-3 border-t border-line px-5 py-2 leading-8">
              <div className="min-w-0 flex-1">
                {column.kind === 'manual' ? (
                  <TextPiece
                    label={`Title of ${column.title}`}
                    value={column.title}
                    none="untitled"
                    problem={null}
                    onSet={(title) => void perform(() => commands.saveNumbers({ columns: { [column.id]: { title } } }))}
                  />
                ) : (
                  <span className="font-medium">{column.title}</span>
                )}
                {column.kind === 'manual' && <span className="text-ink-2"> by hand</span>} is worth{' '}
                <SentencePiece
                  says={`${pointsSaid(column.worth)}`}
                  label={`Worth of ${column.title}: ${pointsSaid(column.worth)}`}
                >
                  {(close) => (
                    <NumberPiece
                      label="Worth, in points"
                      value={column.worth}
                      onSet={(worth) => set(column, { worth })}
                      onDone={close}
                    />
                  )}
                </SentencePiece>
                {column.ownWorth !== null && column.usualWorth !== null && column.ownWorth !== column.usualWorth && (
                  <>
                    {' '}
                    <TextButton className="text-sm decoration-dotted" onClick={() => set(column, { worth: null })}>
                      back to the exam’s {pointsText(column.usualWorth)}
                    </TextButton>
                  </>
                )}
                {groups.length > 0 && (
                  <>
                    , in{' '}
                    <PickPiece
                      label={`Group of ${column.title}`}
                      value={inGroup(column) ? column.groupId : ''}
                      options={[
                        ...entered
                          .filter((group) => group.id !== '')
                          .map((group) => ({ value: group.id, says: group.title })),
                        { value: '', says: 'no group', means: 'no group: it does not count' },
                      ]}
                      onPick={(groupId) => set(column, { groupId: groupId || null })}
                    />
                  </>
                )}
                ;{' '}
                <PickPiece
                  label={`Whether ${column.title} is extra credit`}
                  value={column.extraCredit ? 'extra' : 'asked'}
                  options={[
                    { value: 'asked', says: 'asked of everyone' },
                    { value: 'extra', says: 'extra credit', means: 'extra credit: earned on top, asked of nobody' },
                  ]}
                  onPick={(value) => set(column, { extraCredit: value === 'extra' })}
                />
                , <CurvePiece column={column} onSet={(curve) => set(column, { curve })} />
                {column.kind === 'sitting' && (
                  <>
                    , <LatePiece column={column} onSet={(late) => set(column, { late })} />
                  </>
                )}
                .
              </div>
              <MoveButtons
                name={column.title}
                onUp={i > 0 ? () => void perform(() => commands.moveColumn(column.id, i - 1)) : null}
                onDown={i < columns.length - 1 ? () => void perform(() => commands.moveColumn(column.id, i + 1)) : null}
              />
              {column.kind === 'manual' && (
                <RemoveButton
                  label={`Remove ${column.title}`}
                  onClick={() =>
                    void perform(
                      () => commands.removeColumn(column.id, true),
                      () => {
                        setRemoved(column);
                        setDone(
                          `“${column.title}” is out of the gradebook${column.statistics ? `, with ${counted(column.statistics.n, 'score')} that it held` : ''}.`,
                        );
                      },
                    )
                  }
                />
              )}
            </li>
          ))}
        </ol>
        <NewColumn busy={busy} problems={problems} onAdd={(input) => perform(() => commands.addColumn(input))} />
      </Sheet>
      <SettingsHistory {...history} />
      {numbers.changed && (
        <TriedBar
          tried={numbers.tried}
          broughtBack={numbers.broughtBack}
          busy={busy}
          onKeep={keep}
          onLeave={numbers.leave}
        />
      )}
      <Unkept on={numbers.changed && !numbers.isKept} />
    </PageFrame>
  );
}

/** What was changed here, by whom and when. */
function SettingsHistory({ changes, timeZone }: Props['history']) {
  if (changes.length === 0) return null;
  return (
    <details className="mb-4 border border-line bg-sheet px-5 py-3">
      <summary className="text-ink-2">
        What was changed here, {counted(changes.length, 'time')}, last on{' '}
        {inZone(changes[0]?.at ?? 0, timeZone, 'EEE d MMM yyyy, HH:mm')}
      </summary>
      <ol className="mt-2">
        {changes.map((one) => (
          <li key={one.id} className="border-t border-line py-2">
            {one.said.map((line) => (
              <p key={line}>{line}</p>
            ))}
            <p className="text-sm text-ink-2">
              {one.by}, {inZone(one.at, timeZone, 'EEE d MMM yyyy, HH:mm')}
            </p>
          </li>
        ))}
      </ol>
    </details>
  );
}

/** What is wrong with a field of a group is said there. */
const besidesGroups = (problems: Problem[]) => problems.filter((one) => !/^groups\.\d+\./.test(one.field ?? ''));

function NewColumn({
  busy,
  problems,
  onAdd,
}: {
  busy: boolean;
  problems: Parameters<typeof problemAt>[0];
  onAdd: (input: { title: string; worth: number }) => Promise<unknown>;
}) {
  const [title, setTitle] = useState('');
  const [worth, setWorth] = useState('10');
  return (
    <form
      className="flex flex-wrap items-start gap-3 border-t border-line px-5 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        void onAdd({ title, worth: numberIn(worth) }).then((made) => made && setTitle(''));
      }}
    >
      <TextField
        label="A column of your own"
        className="w-72"
        placeholder="Logbook"
        value={title}
        problem={problemAt(problems, 'title')}
        onChange={(event) => setTitle(event.target.value)}
      />
      <NumberField
        label="Its worth, in points"
        className="w-32"
        value={worth}
        problem={problemAt(problems, 'worth')}
        onChange={(event) => setWorth(event.target.value)}
      />
      <Button type="submit" disabled={busy} className="mt-6">
        Add the column
      </Button>
    </form>
  );
}

function CurvePiece({ column, onSet }: { column: ColumnShown; onSet: (curve: Curve | null) => void }) {
  const { curve } = column;
  const [text, setText] = useState(curve?.kind === 'add' ? String(curve.points) : '2');
  const says = curveSaid(curve);
  const value = numberIn(text);
  return (
    <SentencePiece says={says} label={`Curve of ${column.title}: ${says}`}>
      {(close) => (
        <div className="w-80 space-y-2 leading-normal">
          <p className="text-sm font-medium">Curve</p>
          <Button
            look="quiet"
            onClick={() => {
              onSet(null);
              close();
            }}
          >
            No curve
          </Button>
          <form
            className="flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (!(value > 0)) return;
              onSet({ kind: 'add', points: value });
              close();
            }}
          >
            <NumberField
              label="Points added to every score"
              className="w-44"
              value={text}
              problem={value > 0 ? null : 'A number above 0.'}
              onChange={(event) => setText(event.target.value)}
            />
            <Button type="submit">Set</Button>
          </form>
          <p className="text-sm text-ink-2">Nobody comes above what the column is worth.</p>
          <Button
            look="quiet"
            onClick={() => {
              onSet({ kind: 'to-maximum' });
              close();
            }}
          >
            Make the best score full, and scale all others alike
          </Button>
        </div>
      )}
    </SentencePiece>
  );
}

function LatePiece({ column, onSet }: { column: ColumnShown; onSet: (late: LateRule | null) => void }) {
  const { late } = column;
  const [perDay, setPerDay] = useState(String(Math.round((late?.perDay ?? 0.1) * 1000) / 10));
  const [floor, setFloor] = useState(String(Math.round((late?.floor ?? 0) * 1000) / 10));
  const [a, b] = [numberIn(perDay) / 100, numberIn(floor) / 100];
  const fits = (share: number) => share >= 0 && share <= 1;
  const says = lateSaid(late);
  return (
    <SentencePiece says={says} label={`Late deduction of ${column.title}: ${says}`}>
      {(close) => (
        <form
          className="w-80 space-y-2 leading-normal"
          onSubmit={(event) => {
            event.preventDefault();
            if (!fits(a) || !fits(b)) return;
            onSet({ perDay: a, floor: b });
            close();
          }}
        >
          <NumberField
            label="Off for each started day after due, in % of the worth"
            value={perDay}
            problem={fits(a) ? null : 'From 0 to 100 %.'}
            onChange={(event) => setPerDay(event.target.value)}
          />
          <NumberField
            label="Not below, in % of the worth"
            value={floor}
            problem={fits(b) ? null : 'From 0 to 100 %.'}
            onChange={(event) => setFloor(event.target.value)}
            hint="It takes nothing from a score that lies below it anyway."
          />
          <div className="flex gap-2">
            <Button type="submit" look="main">
              Set
            </Button>
            {late && (
              <Button
                onClick={() => {
                  onSet(null);
                  close();
                }}
              >
                Nothing off
              </Button>
            )}
          </div>
        </form>
      )}
    </SentencePiece>
  );
}
