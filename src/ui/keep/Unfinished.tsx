'use client';
import { useEffect, useState } from 'react';
import { momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { Decision } from '../kit/Decision';
import { Link } from '../kit/Link';
import { Sheet } from '../kit/Page';
import { TextButton } from '../kit/TextButton';
import type { Entry } from './journal';
import { useKeeping } from './KeepingFor';

type Waiting = Entry & { object: string };

/** What its person began in this browser and is not on the server, with one step back to each; nothing where all is. */
export function Unfinished({ zone }: { zone: string }) {
  const journal = useKeeping()?.journal ?? null;
  const [waiting, setWaiting] = useState<Waiting[]>([]);
  const [asked, setAsked] = useState<Waiting | null>(null);
  useEffect(() => {
    const look = () => setWaiting(journal?.list() ?? []);
    look();
    // Another window may finish it, or begin something.
    window.addEventListener('storage', look);
    window.addEventListener('focus', look);
    return () => {
      window.removeEventListener('storage', look);
      window.removeEventListener('focus', look);
    };
  }, [journal]);
  if (waiting.length === 0) return null;
  return (
    <section aria-label="Unfinished">
      <h2 className="mb-1 text-lg text-saffron">
        {counted(waiting.length, 'thing')} unfinished <span className="text-base text-ink-2">in this browser</span>
      </h2>
      <Sheet>
        <ul>
          {waiting.map((one) => (
            <li
              key={one.object}
              className="flex flex-wrap items-baseline gap-x-3 border-t border-line px-4 py-2 first:border-t-0"
            >
              <Link href={one.href} className="font-medium text-prussian underline">
                {one.title}
              </Link>
              <span className="mr-auto text-sm text-ink-2">typed {momentText(one.at, zone)}, not saved</span>
              <TextButton onClick={() => setAsked(one)}>Give it up</TextButton>
            </li>
          ))}
        </ul>
      </Sheet>
      {asked && (
        <Decision
          title={`Give up what was typed into ${asked.title.replace(/^[A-Z]/, (letter) => letter.toLowerCase())}?`}
          act="Give it up"
          look="grave"
          busy={false}
          onClose={() => setAsked(null)}
          onAct={() => {
            journal?.forget(asked.object);
            setWaiting(journal?.list() ?? []);
            setAsked(null);
          }}
        >
          <p>What is on the server stays as it is there.</p>
        </Decision>
      )}
    </section>
  );
}
