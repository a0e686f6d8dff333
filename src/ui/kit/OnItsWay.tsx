'use client';
import { useLinkStatus } from 'next/link';

/** Inside a link: a line below it once the page it leads to takes longer than a moment. */
export function OnItsWay() {
  const { pending } = useLinkStatus();
  return (
    <span
      aria-hidden="true"
      className={`absolute inset-x-0 bottom-0 h-0.5 bg-prussian ${pending ? 'on-its-way' : 'hidden'}`}
    />
  );
}
