'use client';
import { ArrowDown, ArrowUp } from 'lucide-react';
import type { ComponentProps, ReactNode } from 'react';

type OrderItem = { id: string; name: string };

/** A list that is put in order: its rows, and what is told when one has another place. */
export type OrderProps = {
  label: string;
  items: OrderItem[];
  onOrder: (ids: string[]) => void;
  disabled?: boolean;
  children: (item: OrderItem, place: number) => ReactNode;
};

/** The ids with one of them at another place. @example movedTo(['a', 'b', 'c'], 0, 1) // ['b', 'a', 'c'] */
export function movedTo(ids: readonly string[], from: number, to: number): string[] {
  const others = ids.filter((_, i) => i !== from);
  return [...others.slice(0, to), ids[from] as string, ...others.slice(to)];
}

/** How a button of a row looks. */
export const orderTool =
  'flex size-9 shrink-0 items-center justify-center text-ink-2 hover:bg-prussian-wash disabled:opacity-35';

type Props = Pick<ComponentProps<'li'>, 'ref' | 'style'> & {
  name: string;
  place: number;
  count: number;
  disabled: boolean | undefined;
  /** Whether it is being dragged. */
  lifted?: boolean;
  /** What it is dragged by. */
  handle?: ReactNode;
  onMove: (to: number) => void;
  children: ReactNode;
};

/** A row of a list that is put in order, with its two buttons. */
export const OrderRow = ({ ref, style, name, place, count, disabled, lifted, handle, onMove, children }: Props) => (
  <li
    ref={ref}
    style={style}
    className={`flex items-start gap-1 border-b border-line bg-sheet last:border-b-0 ${lifted ? 'relative z-10 shadow-md' : ''}`}
  >
    {handle ?? <span className={orderTool} />}
    {children}
    <button
      type="button"
      disabled={disabled || place === 0}
      onClick={() => onMove(place - 1)}
      aria-label={`Move ${name} up`}
      title="Up"
      className={orderTool}
    >
      <ArrowUp size={16} aria-hidden="true" />
    </button>
    <button
      type="button"
      disabled={disabled || place === count - 1}
      onClick={() => onMove(place + 1)}
      aria-label={`Move ${name} down`}
      title="Down"
      className={orderTool}
    >
      <ArrowDown size={16} aria-hidden="true" />
    </button>
  </li>
);
