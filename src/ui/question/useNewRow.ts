import { useRef } from 'react';

/** The row that was just put into a list takes the cursor once it is drawn. */
export function useNewRow() {
  const expected = useRef<number | null>(null);
  return {
    /** Tells at which place the next row comes. */
    expect: (at: number) => {
      expected.current = at;
    },
    /** To be given to each row, with its place. */
    row: (at: number) => (row: HTMLElement | null) => {
      if (!row || expected.current !== at) return;
      expected.current = null;
      row.querySelector('input')?.focus();
    },
  };
}
