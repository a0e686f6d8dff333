'use client';
import { useRef, useState } from 'react';
import { clockText } from '@/core/base/time';
import { Button } from '../kit/Button';
import { TextButton } from '../kit/TextButton';
import type { Notice, TakingSlot } from './opening';

type Props = {
  notices: readonly Notice[];
  slots: readonly TakingSlot[];
  zone: string;
  /** The first page one can still go to. */
  from: number;
  onGo: (number: number) => void;
};

/** What the room has been told and what was corrected, above the paper until it has been read. It is spoken as it comes. */
export function Notices({ notices, slots, zone, from, onGo }: Props) {
  const [read, setRead] = useState<readonly string[]>([]);
  const place = useRef<HTMLDivElement>(null);
  const shown = notices.filter((one) => !read.includes(one.id));
  const done = (id: string) => setRead((before) => [...before, id]);
  return (
    <div aria-live="polite" ref={place} tabIndex={-1} className="outline-none">
      {shown.map((one) => {
        const slot = slots.find((other) => other.slotId === one.slotId);
        return (
          <div
            key={one.id}
            className="mt-2 flex items-start justify-between gap-3 border border-saffron bg-saffron-wash px-4 py-2 text-base"
          >
            <p className="min-w-0 break-words whitespace-pre-wrap">
              <span className="font-medium text-saffron">
                {slot ? `Question ${slot.number} corrected` : 'Message'}, {clockText(one.at, zone)}:
              </span>{' '}
              {one.text}{' '}
              {slot && slot.page >= from && (
                <TextButton
                  onClick={() => {
                    done(one.id);
                    onGo(slot.number);
                  }}
                >
                  Go to question {slot.number}
                </TextButton>
              )}
            </p>
            <Button
              look="quiet"
              onClick={() => {
                done(one.id);
                place.current?.focus();
              }}
            >
              I have read it
            </Button>
          </div>
        );
      })}
    </div>
  );
}

/** The corrections of one question, where it stands. */
export function Corrections({ notices, slotId, zone }: { notices: readonly Notice[]; slotId: string; zone: string }) {
  const own = notices.filter((one) => one.slotId === slotId);
  if (own.length === 0) return null;
  return (
    <div role="status" className="mb-3 border-l-2 border-saffron pl-3 text-base">
      {own.map((one) => (
        <p key={one.id} className="break-words whitespace-pre-wrap">
          <span className="font-medium text-saffron">Correction, {clockText(one.at, zone)}:</span> {one.text}
        </p>
      ))}
    </div>
  );
}
