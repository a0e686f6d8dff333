import type { ReactNode } from 'react';

/** The title line of a page with its one main action at the right. */
export function PageTitle({ title, note, children }: { title: ReactNode; note?: ReactNode; children?: ReactNode }) {
  return (
    <div className="mb-4 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
      <div className="min-w-0">
        <h1 className="text-2xl">{title}</h1>
        {note && <p className="text-ink-2">{note}</p>}
      </div>
      {children && <div className="flex flex-wrap items-center gap-2">{children}</div>}
    </div>
  );
}

/** A white sheet with a hairline: where the selected thing lies. */
export function Sheet({
  children,
  className = '',
  label,
}: {
  children: ReactNode;
  className?: string;
  label?: string;
}) {
  return (
    <section aria-label={label} className={`border border-line bg-sheet ${className}`}>
      {children}
    </section>
  );
}

/** What an empty page says: what the thing is for, and the first step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="border border-dashed border-edge px-6 py-10 text-center">
      <h2 className="text-xl">{title}</h2>
      <div className="mx-auto mt-2 max-w-prose text-ink-2">{children}</div>
    </div>
  );
}

const inks = {
  plain: 'text-ink-2',
  waits: 'text-saffron',
  done: 'text-pine',
  wrong: 'text-brick',
  hand: 'text-plum',
  now: 'text-prussian',
};

/** A state in words; the colour only repeats what they say. */
export function State({ ink, children }: { ink: keyof typeof inks; children: ReactNode }) {
  return <span className={`font-medium whitespace-nowrap ${inks[ink]}`}>{children}</span>;
}
