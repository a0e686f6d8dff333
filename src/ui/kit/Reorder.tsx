'use client';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { movedTo, type OrderProps, OrderRow } from './OrderRow';

/** What drags, once it has come: every list that is shown later has it from the beginning. */
let come: ((props: OrderProps) => ReactNode) | null = null;

/**
 * A list whose rows are put in order by two buttons, and by dragging a handle or with the keyboard on it once what drags has
 * come: most papers hold no such list, and one that does is answered without it, whatever becomes of the network.
 */
export function Reorder(props: OrderProps) {
  const [Dragged, setDragged] = useState(() => come);
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    if (Dragged) return;
    let gone = false;
    const take = () => {
      if (!gone) setDragged(() => come);
    };
    void import('./DraggedOrder')
      .then(({ DraggedOrder }) => {
        come = DraggedOrder;
        // Whoever is at one of its buttons keeps it under their hands.
        if (list.current?.contains(document.activeElement))
          list.current.addEventListener('focusout', take, { once: true });
        else take();
      })
      .catch(() => {});
    return () => {
      gone = true;
    };
  }, [Dragged]);
  if (Dragged) return <Dragged {...props} />;
  const { label, items, onOrder, disabled, children } = props;
  const ids = items.map((item) => item.id);
  return (
    <ol ref={list} aria-label={label} className="border-y border-line">
      {items.map((item, i) => (
        <OrderRow
          key={item.id}
          name={item.name || `item ${i + 1}`}
          place={i}
          count={items.length}
          disabled={disabled}
          onMove={(to) => onOrder(movedTo(ids, i, to))}
        >
          {children(item, i)}
        </OrderRow>
      ))}
    </ol>
  );
}
