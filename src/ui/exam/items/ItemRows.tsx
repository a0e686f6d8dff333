'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, memo, useEffect, useRef, useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import type { Item } from '@/core/exam/items/item';
import { itemKinds } from '@/core/exam/items/kinds';
import { inputShape } from '../../kit/Field';
import { numberIn } from '../../kit/numberIn';
import type { Typed } from './useItems';

const rowHeight = 40;
const columns = 'grid grid-cols-[3rem_6rem_minmax(12rem,1fr)_11rem_5rem] items-center gap-3 px-3';

type Props = {
  items: readonly Item[];
  /** The place whose row could not be taken over. */
  wrongAt: number | null;
  mayChange: boolean;
  type: (at: number, typed: Typed) => boolean;
};

/**
 * The items one below the other: label, right answer, kind, points. Only the rows in view are drawn. A letter typed on a row
 * of choices marks the right one and goes to the next row, so that a whole key is typed without a look at the screen.
 */
export function ItemRows({ items, wrongAt, mayChange, type }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const wanted = useRef<number | null>(null);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const goTo = (at: number) => {
    if (at < 1 || at > items.length) return;
    const there = answerOf(box.current, at);
    if (there) {
      there.focus();
      there.scrollIntoView({ block: 'nearest' });
      return;
    }
    wanted.current = at;
    virtual.scrollToIndex(at - 1, { align: 'center' });
  };
  useEffect(() => {
    if (wanted.current === null) return;
    const there = answerOf(box.current, wanted.current);
    if (!there) return;
    wanted.current = null;
    there.focus();
  });
  const keyless = items.findIndex((item) => itemKinds[item.type].key === 'required' && item.key === '');
  const kept = useRef({ type, goTo });
  kept.current = { type, goTo };
  const [stable] = useState(() => ({
    type: (at: number, typed: Typed) => kept.current.type(at, typed),
    goTo: (at: number) => kept.current.goTo(at),
  }));
  return (
    <div>
      <div
        className={`${columns} min-h-9 overflow-hidden border-b border-line text-sm text-ink-2 [scrollbar-gutter:stable]`}
      >
        <span className="text-right">No.</span>
        <span>Label</span>
        <span>
          Right answer
          {keyless >= 0 && mayChange && (
            <>
              {' · '}
              <button type="button" className="text-brick underline" onClick={() => goTo(keyless + 1)}>
                to the first without one
              </button>
            </>
          )}
        </span>
        <span>Kind</span>
        <span className="text-right">Points</span>
      </div>
      <div ref={box} className="max-h-[26rem] overflow-y-auto [scrollbar-gutter:stable]" data-items>
        <ol aria-label="Items" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((row) => {
            const item = items[row.index];
            return (
              item && (
                <li
                  key={item.questionId || row.index}
                  aria-setsize={items.length}
                  aria-posinset={row.index + 1}
                  className="absolute inset-x-0 border-b border-line"
                  style={{ height: rowHeight, transform: `translateY(${row.start}px)` }}
                >
                  <Row
                    item={item}
                    at={row.index + 1}
                    wrong={wrongAt === row.index + 1}
                    mayChange={mayChange}
                    type={stable.type}
                    goTo={stable.goTo}
                  />
                </li>
              )
            );
          })}
        </ol>
      </div>
    </div>
  );
}

/** What holds the focus of a row: its picked choice, its first one, or its field. */
const answerOf = (box: HTMLElement | null, at: number): HTMLElement | null =>
  box?.querySelector<HTMLElement>(`[data-answer="${at}"] [tabindex="0"], input[data-answer="${at}"]`) ?? null;

type RowProps = {
  item: Item;
  at: number;
  wrong: boolean;
  mayChange: boolean;
  type: (at: number, typed: Typed) => boolean;
  goTo: (at: number) => void;
};

const small = inputShape.replace('min-h-9', 'min-h-8');

const Row = memo(({ item, at, wrong, mayChange, type, goTo }: RowProps) => (
  <div className={`${columns} h-full ${wrong ? 'bg-brick-wash' : ''}`}>
    <span className="text-right text-ink-2 tabular-nums">{at}</span>
    <Typing
      label={`Label of item ${at}`}
      value={item.label}
      readOnly={!mayChange}
      take={(text) => type(at, { label: text })}
    />
    <Answer item={item} at={at} wrong={wrong} mayChange={mayChange} type={type} goTo={goTo} />
    <span className="truncate text-sm text-ink-2" title={itemKinds[item.type].name}>
      {itemKinds[item.type].name}
    </span>
    <Typing
      label={`Points of item ${at}`}
      value={pointsText(item.points)}
      readOnly={!mayChange}
      right
      take={(text) => numberIn(text) > 0 && numberIn(text) <= 1_000 && type(at, { points: numberIn(text) })}
    />
  </div>
));

/** A field of a row: what cannot be taken over stays in it, marked as wrong. */
function Typing({
  label,
  value,
  readOnly,
  right,
  take,
}: {
  label: string;
  value: string;
  readOnly: boolean;
  right?: boolean;
  take: (text: string) => boolean;
}) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  return (
    <input
      aria-label={label}
      aria-invalid={wrong || undefined}
      className={`${small} ${right ? 'text-right tabular-nums' : ''}`}
      readOnly={readOnly}
      value={text ?? value}
      onChange={(event) => {
        setText(event.target.value);
        setWrong(!take(event.target.value));
      }}
      onBlur={() => {
        if (!wrong) setText(null);
      }}
    />
  );
}

function Answer({ item, at, wrong, mayChange, type, goTo }: RowProps) {
  const [text, setText] = useState<string | null>(null);
  const walk = (event: KeyboardEvent): boolean => {
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Enter: at + 1 }[event.key];
    if (to === undefined) return false;
    event.preventDefault();
    goTo(to);
    return true;
  };
  const kind = itemKinds[item.type];
  const row = kind.row(item);
  if (row === null)
    return (
      <input
        data-answer={at}
        aria-label={kind.key === 'levels' ? `Levels of item ${at}` : `Right answer of item ${at}`}
        aria-invalid={wrong || undefined}
        className={small}
        placeholder={kind.examples}
        readOnly={!mayChange}
        value={text ?? item.key}
        onChange={(event) => {
          setText(event.target.value);
          type(at, { key: event.target.value });
        }}
        onBlur={() => {
          if (!wrong) setText(null);
        }}
        onKeyDown={walk}
      />
    );
  const { several } = kind;
  const picked = new Set(item.key.split(', ').map((one) => one.toLowerCase()));
  const pick = (label: string) => {
    if (!mayChange) return;
    if (!several) {
      type(at, { key: label });
      return;
    }
    const next = row.filter((one) =>
      one === label ? !picked.has(label.toLowerCase()) : picked.has(one.toLowerCase()),
    );
    type(at, { key: next.join(', ') });
  };
  const onKey = (event: KeyboardEvent<HTMLElement>, place: number) => {
    if (walk(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const label = row.find((one) => one.toLowerCase() === event.key.toLowerCase());
    const beside = { ArrowRight: place + 1, ArrowLeft: place - 1 }[event.key];
    if (label) {
      event.preventDefault();
      pick(label);
      if (!several) goTo(at + 1);
    } else if (beside !== undefined) {
      event.preventDefault();
      (event.currentTarget.parentElement?.children[beside] as HTMLElement | undefined)?.focus();
    }
  };
  const stop = Math.max(
    0,
    row.findIndex((one) => picked.has(one.toLowerCase())),
  );
  return (
    <span
      data-answer={at}
      {...{ role: several ? 'group' : 'radiogroup', 'aria-label': `Right answer of item ${at}` }}
      className={`flex gap-1 border-l-2 px-1 py-0.5 ${row.length > 8 ? 'overflow-x-auto' : ''} ${item.key === '' ? 'border-brick' : 'border-transparent'}`}
    >
      {row.map((label, place) => {
        const on = picked.has(label.toLowerCase());
        return (
          <button
            key={label}
            type="button"
            {...(several ? { 'aria-pressed': on } : { role: 'radio', 'aria-checked': on })}
            tabIndex={place === stop ? 0 : -1}
            onClick={() => pick(label)}
            onKeyDown={(event) => onKey(event, place)}
            className={`h-8 min-w-8 shrink-0 rounded-sm border px-1.5 text-sm ${on ? 'border-prussian bg-prussian font-semibold text-white' : 'border-edge bg-sheet hover:bg-prussian-wash'}`}
          >
            {label}
          </button>
        );
      })}
    </span>
  );
}
