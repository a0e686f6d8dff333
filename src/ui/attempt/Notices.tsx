'use client';
import { useRef, useState } from 'react';
import { Button } from '../kit/Button';
import type { Notice } from './opening';

const clock = (at: number) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** What the room has been told, above the paper until it has been read. It is spoken as it comes. */
export function Notices({ notices }: { notices: readonly Notice[] }) {
  const [read, setRead] = useState<readonly string[]>([]);
  const place = useRef<HTMLDivElement>(null);
  const shown = notices.filter((one) => one.slotId === null && !read.includes(one.id));
  return (
    <div aria-live="polite" ref={place} tabIndex={-1} className="outline-none">
      {shown.map((one) => (
        <div
          key={one.id}
          className="mt-2 flex items-start justify-between gap-3 border border-saffron bg-saffron-wash px-4 py-2 text-base"
        >
          <p className="min-w-0 break-words whitespace-pre-wrap">
            <span className="font-medium text-saffron">Message, {clock(one.at)}:</span> {one.text}
          </p>
          <Button
            look="quiet"
            onClick={() => {
              setRead([...read, one.id]);
              place.current?.focus();
            }}
          >
            I have read it
          </Button>
        </div>
      ))}
    </div>
  );
}

/** The corrections of one question, where it stands. */
export function Corrections({ notices, slotId }: { notices: readonly Notice[]; slotId: string }) {
  const own = notices.filter((one) => one.slotId === slotId);
  if (own.length === 0) return null;
  return (
    <div role="status" className="mb-3 border-l-2 border-saffron pl-3 text-base">
      {own.map((one) => (
        <p key={one.id} className="break-words whitespace-pre-wrap">
          <span className="font-medium text-saffron">Correction, {clock(one.at)}:</span> {one.text}
        </p>
      ))}
    </div>
  );
}
