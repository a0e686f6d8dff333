import { ArrowLeft } from 'lucide-react';
import type { HTMLAttributes, ReactNode } from 'react';
import { Link } from './Link';
import { pageWidths } from './pageWidths';

type PageProps = HTMLAttributes<HTMLDivElement> & { width?: keyof typeof pageWidths };

/** The frame of a page: one of three widths, its title first. */
export const PageFrame = ({ width = 'full', ...rest }: PageProps) => (
  <div {...rest} data-page={width} className={`min-w-0 ${pageWidths[width]}`} />
);

/** The title line of a page: the way back above it where the page lies below another, its one main action at the right. */
export function PageTitle({
  title,
  note,
  back,
  children,
}: {
  title: ReactNode;
  note?: ReactNode;
  back?: Back;
  children?: ReactNode;
}) {
  return (
    <div className="mb-4 flex flex-wrap items-start justify-between gap-x-6 gap-y-2">
      <div className="min-w-0">
        {back && <WayBack {...back} />}
        <h1 className="text-2xl">{title}</h1>
        {note && <div className="text-ink-2">{note}</div>}
      </div>
      {children && <div className={`flex flex-wrap items-center gap-2 ${back ? 'mt-5' : ''}`}>{children}</div>}
    </div>
  );
}

/** The page above this one. */
export type Back = { href: string; name: string };

/** The way back to the page above, where a page has another head than a title. */
export const WayBack = ({ href, name }: Back) => (
  <p className="-mt-2 text-sm">
    <Link href={href} className="inline-flex items-center gap-1 py-0.5 text-prussian hover:underline">
      <ArrowLeft size={13} aria-hidden="true" /> <span className="sr-only">Back to </span>
      {name}
    </Link>
  </p>
);

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
