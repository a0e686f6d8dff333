'use client';
import { type FormEvent, type ReactNode, useState } from 'react';
import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { type ItemChange, itemChange, lossOf } from '@/core/exam/items/changeItems';
import type { Item } from '@/core/exam/items/item';
import { type ItemType, itemKinds, itemTypes } from '@/core/exam/items/kinds';
import { readKeys } from '@/core/exam/items/readKeys';
import { choiceLabel } from '@/core/question/choiceLabel';
import { Button } from '../../kit/Button';
import { inputShape } from '../../kit/Field';
import { numberIn } from '../../kit/numberIn';
import { Sheet } from '../../kit/Page';
import { Problems } from '../../kit/Problems';

type Do = (change: ItemChange) => Promise<Problem[] | null>;

const tools = { set: 'Set items', keys: 'Give the key', label: 'Label them', room: 'Put in or take out' } as const;
type Tool = keyof typeof tools;

/** What is done to many items at once: one sentence for each, with its pieces to be filled in. */
export function ItemTools({ items, doToMany }: { items: readonly Item[]; doToMany: Do }) {
  const [tool, setTool] = useState<Tool>('set');
  return (
    <Sheet label="Many items at once" className="px-4 py-3">
      <fieldset className="mb-3 flex flex-wrap gap-x-5 gap-y-1">
        <legend className="sr-only">What to do</legend>
        {(Object.keys(tools) as Tool[]).map((one) => (
          <label key={one} className={`flex items-center gap-1.5 ${tool === one ? 'font-medium' : 'text-ink-2'}`}>
            <input
              type="radio"
              name="tool"
              className="accent-prussian"
              checked={tool === one}
              onChange={() => setTool(one)}
            />
            {tools[one]}
          </label>
        ))}
      </fieldset>
      {tool === 'set' && <SetItems items={items} doToMany={doToMany} />}
      {tool === 'keys' && <GiveKey items={items} doToMany={doToMany} />}
      {tool === 'label' && <LabelItems items={items} doToMany={doToMany} />}
      {tool === 'room' && <MakeRoom items={items} doToMany={doToMany} />}
    </Sheet>
  );
}

type ToolProps = { items: readonly Item[]; doToMany: Do };

/** Sends what a sentence says, once it can be understood; what is wrong stands below it and nothing typed is lost. */
function useTool(items: readonly Item[], doToMany: Do) {
  const [asking, setAsking] = useState<{ change: ItemChange; said: string; loss: string; after?: () => void } | null>(
    null,
  );
  const [problems, setProblems] = useState<Problem[]>([]);
  const [done, setDone] = useState('');
  const [busy, setBusy] = useState(false);
  const make = async (change: ItemChange, said: string, after?: () => void) => {
    setAsking(null);
    setBusy(true);
    const wrong = await doToMany(change);
    setBusy(false);
    setProblems(wrong ?? []);
    setDone(wrong ? '' : said);
    if (!wrong) after?.();
  };
  const perform = async (change: unknown, said: string, after?: () => void): Promise<void> => {
    setDone('');
    setAsking(null);
    const parsed = itemChange.safeParse(change);
    if (!parsed.success) {
      setProblems([{ code: 'bad-input', message: parsed.error.issues[0]?.message ?? 'This cannot be understood.' }]);
      return;
    }
    const loss = lossOf(items, parsed.data);
    if (loss) setAsking({ change: parsed.data, said, loss, after });
    else await make(parsed.data, said, after);
  };
  const foot = (
    <>
      <Problems problems={problems} className="mt-2" />
      {asking && (
        <div role="alert" className="mt-2 flex flex-wrap items-center gap-2 bg-saffron-wash px-3 py-2 leading-6">
          <span className="mr-auto">{asking.loss}</span>
          <Button look="grave" disabled={busy} onClick={() => void make(asking.change, asking.said, asking.after)}>
            Do it
          </Button>
          <Button onClick={() => setAsking(null)}>Leave them</Button>
        </div>
      )}
      <p role="status" className="mt-1 text-sm text-pine">
        {problems.length === 0 && done}
      </p>
    </>
  );
  return { perform, foot, busy };
}

const piece = `${inputShape.replace('w-full ', '')} mx-1 inline-block`;

/** A number inside a sentence. */
const Num = ({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) => (
  <input
    aria-label={label}
    inputMode="decimal"
    className={`${piece} w-20 text-right tabular-nums`}
    value={value}
    onChange={(event) => onChange(event.target.value)}
  />
);

function Sentence({ onSubmit, children }: { onSubmit: () => void; children: ReactNode }) {
  return (
    <form
      className="leading-10"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        onSubmit();
      }}
    >
      {children}
    </form>
  );
}

const starts = ['A', 'a', '1', ...[...'BCDEFGHIJKLMNOPQRSTUVWXYZ']];

function SetItems({ items, doToMany }: ToolProps) {
  const { perform, foot, busy } = useTool(items, doToMany);
  const last = items.at(-1);
  const [from, setFrom] = useState(String(items.length + 1));
  const [to, setTo] = useState(String(items.length + (items.length ? 20 : 60)));
  const [type, setType] = useState<ItemType>(last?.type ?? 'single-choice');
  const [choices, setChoices] = useState(String(last?.choices ?? 4));
  const [start, setStart] = useState(last?.start ?? 'A');
  const [points, setPoints] = useState(pointsText(last?.points ?? 1));
  const submit = async () => {
    const change = { do: 'set', from: numberIn(from), to: numberIn(to), type, start, points: numberIn(points) };
    await perform(
      { ...change, choices: itemKinds[type].hasChoices ? numberIn(choices) : 4 },
      `Items ${from} to ${to} are set.`,
      () => {
        if (numberIn(to) < items.length) return;
        setFrom(String(numberIn(to) + 1));
        setTo(String(numberIn(to) + 20));
      },
    );
  };
  return (
    <Sentence onSubmit={() => void submit()}>
      Items <Num label="First item" value={from} onChange={setFrom} /> to{' '}
      <Num label="Last item" value={to} onChange={setTo} /> have
      <select
        aria-label="Kind of item"
        className={piece}
        value={type}
        onChange={(event) => setType(event.target.value as ItemType)}
      >
        {itemTypes.map((one) => (
          <option key={one} value={one}>
            {itemKinds[one].name}
          </option>
        ))}
      </select>
      {itemKinds[type].hasChoices && (
        <>
          of <Num label="Number of choices" value={choices} onChange={setChoices} /> choices, labelled
          <select
            aria-label="First label"
            className={piece}
            value={start}
            onChange={(event) => setStart(event.target.value)}
          >
            {starts.map((one) => (
              <option key={one} value={one}>
                {[0, 1, 2].map((place) => choiceLabel(one, place)).join(', ')} …
              </option>
            ))}
          </select>
        </>
      )}
      , worth <Num label="Points each" value={points} onChange={setPoints} /> {points === '1' ? 'point' : 'points'}{' '}
      each.{' '}
      <Button type="submit" look="main" disabled={busy}>
        Set the items
      </Button>
      {foot}
    </Sentence>
  );
}

function GiveKey({ items, doToMany }: ToolProps) {
  const { perform, foot, busy } = useTool(items, doToMany);
  const [from, setFrom] = useState('1');
  const [text, setText] = useState('');
  const read = text.trim() ? readKeys(text, items, numberIn(from) - 1) : null;
  const shown = read ? [...read.keys].slice(0, 12).map(([at, key]) => `${items[at]?.label} ${key}`) : [];
  const submit = async () => {
    await perform({ do: 'keys', from: numberIn(from), text }, `${read?.keys.size ?? 0} right answers are given.`, () =>
      setText(''),
    );
  };
  if (items.length === 0) return <p className="text-ink-2">There are no items yet: set them first.</p>;
  return (
    <Sentence onSubmit={() => void submit()}>
      From item <Num label="From item" value={from} onChange={setFrom} /> on the right answers are
      <textarea
        aria-label="Right answers"
        rows={4}
        className={`${inputShape} mt-1 block py-2 font-mono leading-6`}
        placeholder={'ABDCA BCDDA …   or one line for each item:   12 C   or   2a: port | larboard'}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {read && (
        <p className="text-sm leading-6 text-ink-2">
          Read as {counted(read.keys.size, 'answer')}: {shown.join(' · ')}
          {read.keys.size > shown.length && ' …'}
          {read.problems.length > 0 && <span className="block text-brick">{read.problems.slice(0, 3).join(' ')}</span>}
        </p>
      )}
      <Button type="submit" look="main" disabled={busy} className="mt-2">
        Give the key
      </Button>
      {foot}
    </Sentence>
  );
}

function LabelItems({ items, doToMany }: ToolProps) {
  const { perform, foot, busy } = useTool(items, doToMany);
  const [from, setFrom] = useState('1');
  const [to, setTo] = useState(String(Math.max(1, items.length)));
  const [prefix, setPrefix] = useState('');
  const [first, setFirst] = useState('1');
  const end = numberIn(first) + numberIn(to) - numberIn(from);
  const said = Number.isFinite(end) ? `${prefix}${first} to ${prefix}${end}` : '';
  const submit = () =>
    perform(
      { do: 'label', from: numberIn(from), to: numberIn(to), prefix, first: numberIn(first) },
      `Items ${from} to ${to} are labelled ${said}.`,
    );
  return (
    <Sentence onSubmit={() => void submit()}>
      Items <Num label="First item" value={from} onChange={setFrom} /> to{' '}
      <Num label="Last item" value={to} onChange={setTo} /> are labelled
      <input
        aria-label="Text before the number"
        className={`${piece} w-24`}
        placeholder="nothing"
        value={prefix}
        onChange={(event) => setPrefix(event.target.value)}
      />
      and a number from <Num label="First number" value={first} onChange={setFirst} /> on
      {said && <span className="text-ink-2">: {said}</span>}.{' '}
      <Button type="submit" look="main" disabled={busy}>
        Label them
      </Button>
      {foot}
    </Sentence>
  );
}

function MakeRoom({ items, doToMany }: ToolProps) {
  const { perform, foot, busy } = useTool(items, doToMany);
  const [count, setCount] = useState('1');
  const [at, setAt] = useState('1');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  if (items.length === 0) return <p className="text-ink-2">There are no items yet: set them first.</p>;
  return (
    <div>
      <Sentence
        onSubmit={() =>
          void perform({ do: 'insert', at: numberIn(at), count: numberIn(count) }, `Room is made before item ${at}.`)
        }
      >
        Put <Num label="How many new items" value={count} onChange={setCount} /> new {count === '1' ? 'item' : 'items'}{' '}
        before item <Num label="Before item" value={at} onChange={setAt} />, of its kind.{' '}
        <Button type="submit" disabled={busy}>
          Put in
        </Button>
      </Sentence>
      <Sentence
        onSubmit={() =>
          void perform(
            { do: 'take-out', from: numberIn(from), to: numberIn(to || from) },
            `Items ${from} to ${to || from} are taken out. Papers that hold them keep them.`,
          )
        }
      >
        Take out items <Num label="First item to take out" value={from} onChange={setFrom} /> to{' '}
        <Num label="Last item to take out" value={to} onChange={setTo} />.{' '}
        <Button type="submit" look="grave" disabled={busy}>
          Take out
        </Button>
        {foot}
      </Sentence>
    </div>
  );
}
