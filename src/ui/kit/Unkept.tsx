'use client';
import { useRouter } from 'next/navigation';
import { type ReactNode, useLayoutEffect, useState } from 'react';
import { Decision } from './Decision';

type Props = {
  on: boolean;
  title?: string;
  act?: string;
  /** What becomes of it when the page is left. */
  children?: ReactNode;
};

/** Asks before a page is left on which something stands that is not kept yet. */
export function Unkept({
  on,
  title = 'Leave without keeping?',
  act = 'Leave it unkept',
  children = 'What you changed on this page is not kept yet, and is gone once you leave.',
}: Props) {
  const router = useRouter();
  const [to, setTo] = useState<string | null>(null);
  // In one go with what the page shows: once it says that all is kept, it asks nothing any more.
  useLayoutEffect(() => {
    if (!on) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    const ask = (event: MouseEvent) => {
      const link = (event.target as Element | null)?.closest<HTMLAnchorElement>('a[href]');
      const elsewhere = event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0;
      if (!link || link.target || link.hasAttribute('download') || elsewhere) return;
      if (link.origin !== location.origin || link.pathname === location.pathname) return;
      event.preventDefault();
      event.stopPropagation();
      setTo(link.pathname + link.search + link.hash);
    };
    window.addEventListener('beforeunload', warn);
    document.addEventListener('click', ask, true);
    return () => {
      window.removeEventListener('beforeunload', warn);
      document.removeEventListener('click', ask, true);
    };
  }, [on]);
  if (to === null) return null;
  return (
    <Decision
      title={title}
      act={act}
      look="grave"
      busy={false}
      onClose={() => setTo(null)}
      onAct={() => {
        setTo(null);
        router.push(to);
      }}
    >
      <p>{children}</p>
    </Decision>
  );
}
